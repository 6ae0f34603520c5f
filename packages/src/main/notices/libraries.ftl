<#-- One line a library: name, version, licences, home. The Apache License goes by several names, of which one is enough. -->
<#list dependencyMap as e>
<#assign project = e.getKey()/>
<#assign licenses = e.getValue()/>
| ${project.artifactId} | ${project.version} | <#list licenses as license><#if license?contains("Apache")>Apache-2.0<#else>${license}</#if><#if license_has_next>; </#if></#list> | ${(project.url!"")} |
</#list>
