using System.Text;
using System.Text.Json;
using Revtal.Core;
using Revtal.Core.Captures;
using Revtal.Documents;
using Xunit;

namespace Revtal.Tests.Documents;

public sealed class CaptureFolderTests
{
    [Fact]
    public void A_folder_a_file_and_a_bundle_say_the_same()
    {
        var folder = CaptureFolder.Read(Repository.CapturePath("vm-after-20g"));
        Assert.Equal(["DMI", "meminfo", "smbios_entry_point"], folder.Select(f => f.Name));
        var bundle = Path.GetTempFileName();
        File.WriteAllText(bundle, JsonSerializer.Serialize(CaptureBundle.Of(folder), RevtalJson.Options));
        var fromBundle = CaptureDecoder.Decode(CaptureFolder.Read(bundle));
        File.Delete(bundle);
        Assert.Equal(Written(CaptureDecoder.Decode(folder)), Written(fromBundle));
    }

    [Theory]
    [InlineData("{ \"format\": \"revtal-capture/7\", \"files\": [] }", "bundle-unknown")]
    [InlineData("{ \"format\": 3, \"files\": [] }", "bundle-broken")]
    [InlineData("{ \"files\": [{ \"name\": \"x\", \"content\": \"%%\" }] }", "bundle-broken")]
    public void A_bundle_that_is_none_is_refused(string json, string code)
    {
        var path = Path.GetTempFileName();
        File.WriteAllText(path, json);
        Assert.Equal(code, Assert.Throws<RefusedException>(() => CaptureFolder.Read(path).ToArray()).Code);
        File.Delete(path);
    }

    // A report alone, as somebody brings it on a stick: in the encodings that the shells of its system write.
    [Theory]
    [InlineData("windows.json", "PW24-7731", "utf-8")]
    [InlineData("windows.json", "PW24-7731", "utf-8-mark")]
    [InlineData("windows.json", "PW24-7731", "utf-16")]
    [InlineData("macos.json", "DUN-0042", "utf-8")]
    public void A_report_alone_is_read_as_what_it_is(string report, string serial, string encoding)
    {
        var path = Path.GetTempFileName();
        Encoding how = encoding switch
        {
            "utf-16" => Encoding.Unicode,
            "utf-8-mark" => new UTF8Encoding(encoderShouldEmitUTF8Identifier: true),
            _ => new UTF8Encoding(false),
        };
        File.WriteAllText(path, Repository.Report(report), how);
        Assert.Equal(serial, CaptureDecoder.Decode(CaptureFolder.Read(path)).System.Serial);
        File.Delete(path);
    }

    [Theory]
    [InlineData("{ \"colour\": \"red\" }", "json-unknown")]
    [InlineData("{ \"format\": \"revtal-windows/1\", ", "json-broken")]
    public void Json_that_is_no_bundle_is_told_as_the_file_that_it_is(string json, string code)
    {
        var path = Path.GetTempFileName();
        File.WriteAllText(path, json);
        Assert.Equal(code, Assert.Throws<RefusedException>(() => CaptureDecoder.Decode(CaptureFolder.Read(path))).Code);
        File.Delete(path);
    }

    [Fact]
    public void A_path_that_leads_nowhere_is_said_to() =>
        Assert.Equal(
            "capture-missing",
            Assert.Throws<RefusedException>(() => CaptureFolder.Read("/nowhere/at/all")).Code
        );

    [Fact]
    public void A_device_without_end_is_not_read_to_its_end() =>
        Assert.Equal("capture-too-large", Assert.Throws<RefusedException>(() => CaptureFolder.Read("/dev/zero")).Code);

    private static string Written(Reading reading) => JsonSerializer.Serialize(reading, RevtalJson.Options);
}
