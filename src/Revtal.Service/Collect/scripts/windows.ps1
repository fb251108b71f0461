# Revtal collector for Windows PowerShell. It reads what this machine reports of its memory and drives, and sends it to the bench that asked.
# It installs nothing and changes nothing. It sends serials of the machine, its modules and drives; no names of people, no names of files.
# Run it as the administrator: the drives' health is shown to nobody else.
# With -For 10m it first watches for so long what the machine has to do (at most 2h, a sample every 5 s), then ends by itself.
param([string]$For = '', [int]$Every = 5)
$SendTo = '@SEND_TO@'
$ErrorActionPreference = 'SilentlyContinue'
$missing = @()
function Take($name, $query, $fields) {
  $found = @(& $query | Select-Object -Property $fields)
  if ($found.Count -eq 0) { $script:missing += "${name}: this system does not show it" }
  , $found
}
$load = ''
if ($For -ne '') {
  if ($For -notmatch '^(\d+)([smh]?)$') { Write-Host "-For wants a time like 10m, not $For."; return }
  $watch = [Math]::Min(7200, [long]$Matches[1] * @{ 's' = 1; 'h' = 3600; 'm' = 60; '' = 60 }[$Matches[2]])
  Write-Host "Watching for $watch s. Work as usual; Ctrl+C ends it without sending."
  $lines = @('revtal-load/1')
  $clock = [Diagnostics.Stopwatch]::StartNew()
  $last = -1
  while ($last -lt $watch) {
    $now = [int][Math]::Floor($clock.Elapsed.TotalSeconds)
    if ($now -gt $last) {
      $os = Get-CimInstance Win32_OperatingSystem
      $cpu = Get-CimInstance Win32_PerfFormattedData_PerfOS_Processor | Where-Object Name -eq '_Total'
      $disk = Get-CimInstance Win32_PerfFormattedData_PerfDisk_PhysicalDisk | Where-Object Name -eq '_Total'
      $net = Get-CimInstance Win32_PerfFormattedData_Tcpip_NetworkInterface | Measure-Object -Property BytesTotalPersec -Sum
      $paged = [long]$os.SizeStoredInPagingFiles - [long]$os.FreeSpaceInPagingFiles
      $lines += @(
        $now, ([long]$os.TotalVisibleMemorySize - [long]$os.FreePhysicalMemory), [Math]::Max(0, $paged),
        $(if ($cpu) { [Math]::Min(100, [long]$cpu.PercentProcessorTime) } else { '-' }),
        $(if ($disk) { [long]($disk.DiskBytesPersec / 1KB) } else { '-' }),
        $(if ($net) { [long]($net.Sum / 1KB) } else { '-' })
      ) -join ' '
      $last = $now
    }
    if ($last -lt $watch) { Start-Sleep -Seconds $Every }
  }
  $load = ',{"name":"load.txt","content":"' + [Convert]::ToBase64String([Text.Encoding]::UTF8.GetBytes($lines -join "`n")) + '"}'
}
$os = Get-CimInstance Win32_OperatingSystem
$report = [ordered]@{
  format              = 'revtal-windows/1'
  script              = 'windows 1'
  taken               = (Get-Date).ToUniversalTime().ToString('yyyy-MM-ddTHH:mm:ssZ')
  upSeconds           = [long]((Get-Date) - $os.LastBootUpTime).TotalSeconds
  computerSystem      = Get-CimInstance Win32_ComputerSystem | Select-Object Manufacturer, Model, TotalPhysicalMemory
  bios                = Get-CimInstance Win32_BIOS | Select-Object Manufacturer, SMBIOSBIOSVersion, SerialNumber
  operatingSystem     = $os | Select-Object Caption, OSArchitecture, TotalVisibleMemorySize, FreePhysicalMemory, SizeStoredInPagingFiles, FreeSpaceInPagingFiles
  physicalMemoryArray = Take 'the memory array' { Get-CimInstance Win32_PhysicalMemoryArray } @('MaxCapacity', 'MaxCapacityEx', 'MemoryDevices', 'Use')
  physicalMemory      = Take 'the memory modules' { Get-CimInstance Win32_PhysicalMemory } @('DeviceLocator', 'BankLabel', 'Capacity', 'FormFactor', 'SMBIOSMemoryType', 'Speed', 'ConfiguredClockSpeed', 'Manufacturer', 'PartNumber', 'SerialNumber', 'TotalWidth', 'DataWidth')
  disk                = Take 'the drives' { Get-Disk } @('Number', 'FriendlyName', 'SerialNumber', 'Size', 'AllocatedSize', 'LogicalSectorSize', 'Location', @{ n = 'PartitionStyle'; e = { [int]$_.CimInstanceProperties['PartitionStyle'].Value } }, @{ n = 'BusType'; e = { [int]$_.CimInstanceProperties['BusType'].Value } }, 'IsBoot')
  partition           = Take 'the partitions' { Get-Partition } @('DiskNumber', @{ n = 'DriveLetter'; e = { "$($_.DriveLetter)".Trim([char]0) } }, 'Size')
  volume              = Take 'the volumes' { Get-Volume } @(@{ n = 'DriveLetter'; e = { "$($_.DriveLetter)".Trim([char]0) } }, @{ n = 'Label'; e = { if ($_.FileSystemLabel) { '-' } else { '' } } }, 'Size', 'SizeRemaining')
  physicalDisk        = Take 'the state of the drives' { Get-PhysicalDisk } @('DeviceId', @{ n = 'HealthStatus'; e = { [int]$_.CimInstanceProperties['HealthStatus'].Value } })
  reliability         = Take 'the health of the drives' { Get-PhysicalDisk | Get-StorageReliabilityCounter } @('DeviceId', 'PowerOnHours', 'Wear', 'Temperature', 'ReadErrorsUncorrected')
}
$report.missing = $missing
$json = $report | ConvertTo-Json -Depth 5
$content = [Convert]::ToBase64String([Text.Encoding]::UTF8.GetBytes($json))
$bundle = '{"format":"revtal-capture/1","files":[{"name":"windows.json","content":"' + $content + '"}' + $load + ']}'
$missing | ForEach-Object { Write-Host "  left out: $_" }
if ($SendTo -eq '') {
  $out = Join-Path (Get-Location) ('revtal-' + (Get-Date).ToUniversalTime().ToString('yyyyMMdd-HHmmss') + '.revtal')
  [IO.File]::WriteAllText($out, $bundle)
  Write-Host "Written to ${out}: bring it to the bench."
} else {
  Invoke-RestMethod -Uri $SendTo -Method Post -ContentType 'application/json' -Body $bundle -TimeoutSec 60
}
