using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Revtal.Storage;

namespace Revtal.Service.People;

/// <summary>The framework's keys, where every instance finds them.</summary>
internal sealed class KeptKeys(KeyStore keys) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements() => [.. keys.All().Select(k => XElement.Parse(k))];

    public void StoreElement(XElement element, string friendlyName) =>
        keys.Add(friendlyName, element.ToString(SaveOptions.DisableFormatting));
}
