<#-- One line a library: name, version, licences, home. -->
<#list dependencyMap as e>
<#assign project = e.getKey()/>
<#assign licenses = e.getValue()/>
| ${project.artifactId} | ${project.version} | <#list licenses as license>${license}<#if license_has_next>; </#if></#list> | ${(project.url!"")} |
</#list>
