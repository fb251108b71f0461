# Stand-ins for the cmdlets that the collector asks, answering as the documented classes do: Win32_* of CIMWin32, and
# MSFT_Disk, MSFT_Partition, MSFT_Volume, MSFT_PhysicalDisk, MSFT_StorageReliabilityCounter of the storage provider.
# A tower with 16 + 8 GB of DDR4, a stick of 512 GB and a drive of 4 TB that somebody called by a name.
function Get-CimInstance($ClassName) {
  switch ($ClassName) {
    'Win32_OperatingSystem' {
      [pscustomobject]@{
        Caption = 'A system of 64 bits'; OSArchitecture = '64-bit'; TotalVisibleMemorySize = [uint64]24984320
        FreePhysicalMemory = [uint64]15546368; SizeStoredInPagingFiles = [uint64]3932160
        FreeSpaceInPagingFiles = [uint64]3407872; LastBootUpTime = (Get-Date).AddHours(-2)
        RegisteredUser = 'Reimer Holt'
      }
    }
    'Win32_ComputerSystem' {
      [pscustomobject]@{
        Manufacturer = 'Quillon'; Model = 'QT40'; TotalPhysicalMemory = [uint64]25583943680
        UserName = 'TOWER\Reimer'; Name = 'TOWER-OF-REIMER'
      }
    }
    'Win32_BIOS' {
      [pscustomobject]@{ Manufacturer = 'Quillon'; SMBIOSBIOSVersion = 'Q40.117'; SerialNumber = 'QT40-5521' }
    }
    'Win32_PerfFormattedData_PerfOS_Processor' {
      foreach ($name in '0', '1', '_Total') { [pscustomobject]@{ Name = $name; PercentProcessorTime = [uint64]20 } }
    }
    'Win32_PerfFormattedData_PerfDisk_PhysicalDisk' {
      [pscustomobject]@{ Name = '0 C:'; DiskBytesPersec = [uint64]1 }
      [pscustomobject]@{ Name = '_Total'; DiskBytesPersec = [uint64]31457280 }
    }
    'Win32_PerfFormattedData_Tcpip_NetworkInterface' {
      foreach ($rate in 1048576, 2097152) { [pscustomobject]@{ Name = "card of $rate"; BytesTotalPersec = [uint64]$rate } }
    }
    'Win32_PhysicalMemoryArray' {
      [pscustomobject]@{
        MaxCapacity = [uint32]67108864; MaxCapacityEx = [uint64]67108864; MemoryDevices = [uint16]4; Use = [uint16]3
      }
    }
    'Win32_PhysicalMemory' {
      foreach ($m in @(@('A2', 'BANK 1', 17179869184, 'OST4-16G', '00C0FFEE'), @('B2', 'BANK 3', 8589934592, 'OST4-8G', '0BADF00D'))) {
        [pscustomobject]@{
          DeviceLocator = $m[0]; BankLabel = $m[1]; Capacity = [uint64]$m[2]; FormFactor = [uint16]8
          SMBIOSMemoryType = [uint32]26; Speed = [uint32]3200; ConfiguredClockSpeed = [uint32]2666
          Manufacturer = 'Ostrava'; PartNumber = $m[3] + '   '; SerialNumber = $m[4]
          TotalWidth = [uint16]64; DataWidth = [uint16]64
        }
      }
    }
  }
}

# The cmdlets show words for numbers; the numbers lie below.
function Raw($words, $numbers) {
  $words.CimInstanceProperties = @{}
  foreach ($n in $numbers.Keys) { $words.CimInstanceProperties[$n] = [pscustomobject]@{ Value = $numbers[$n] } }
  [pscustomobject]$words
}
function Get-Disk {
  Raw @{
    Number = [uint32]0; FriendlyName = 'Basaltine BN-500'; SerialNumber = '0025_3858_81B0_9C1D.'; Size = [uint64]512110190592
    AllocatedSize = [uint64]512110190592; LogicalSectorSize = [uint32]512; PartitionStyle = 'GPT'; BusType = 'NVMe'
    Location = 'Integrated : Bus 1 : Device 0 : Function 0 : Adapter 1'; IsBoot = $true
  } @{ PartitionStyle = [uint16]2; BusType = [uint16]17 }
  Raw @{
    Number = [uint32]1; FriendlyName = 'Basaltine BD-4T'; SerialNumber = '            BD4T-0093'; Size = [uint64]4000787030016
    AllocatedSize = [uint64]4000785104896; LogicalSectorSize = [uint32]512; PartitionStyle = 'GPT'; BusType = 'SATA'
    Location = 'Integrated : Bus 0 : Device 23 : Function 0 : Adapter 0 : Port 2'; IsBoot = $false
  } @{ PartitionStyle = [uint16]2; BusType = [uint16]11 }
}
function Get-Partition {
  [pscustomobject]@{ DiskNumber = [uint32]0; DriveLetter = [char]0; Size = [uint64]104857600 }
  [pscustomobject]@{ DiskNumber = [uint32]0; DriveLetter = [char]'C'; Size = [uint64]511000000000 }
  [pscustomobject]@{ DiskNumber = [uint32]1; DriveLetter = [char]'D'; Size = [uint64]4000785104896 }
}
function Get-Volume {
  [pscustomobject]@{ DriveLetter = [char]'C'; FileSystemLabel = ''; Size = [uint64]511000000000; SizeRemaining = [uint64]300000000000 }
  [pscustomobject]@{ DriveLetter = [char]'D'; FileSystemLabel = 'Photos of Reimer'; Size = [uint64]4000785104896; SizeRemaining = [uint64]2500785104896 }
}
function Get-PhysicalDisk {
  Raw @{ DeviceId = '0'; HealthStatus = 'Healthy' } @{ HealthStatus = [uint16]0 }
  Raw @{ DeviceId = '1'; HealthStatus = 'Warning' } @{ HealthStatus = [uint16]1 }
}
function Get-StorageReliabilityCounter {
  # The second drive keeps none.
  process {
    if ($_.DeviceId -eq '0') {
      [pscustomobject]@{ DeviceId = '0'; PowerOnHours = [uint32]8123; Wear = [byte]4; Temperature = [byte]41; ReadErrorsUncorrected = [uint64]0 }
    }
  }
}
