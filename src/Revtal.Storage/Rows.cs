namespace Revtal.Storage;

/// <summary>One entry of the journal. (Order, Sequence) is unique, so two writers cannot both be next.</summary>
public sealed class EntryRow
{
    /// <summary>Place in the whole journal; grows with every commit.</summary>
    public long Position { get; set; }

    public int Order { get; set; }

    public int Sequence { get; set; }

    /// <summary>Made by the sender; unique, so that a retry records once.</summary>
    public Guid Id { get; set; }

    public required string Kind { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long At { get; set; }

    public required string By { get; set; }

    /// <summary>JSON.</summary>
    public required string Body { get; set; }

    /// <summary>What the request said, hashed: the same id with other content is refused.</summary>
    public required string Print { get; set; }
}

/// <summary>The projection of one order: what board and search need. Rebuilt from the journal at any time.</summary>
public sealed class OrderRow
{
    public int Number { get; set; }

    /// <summary>The sequence of the last entry.</summary>
    public int Head { get; set; }

    public bool Open { get; set; }

    public required string Stage { get; set; }

    public required string Model { get; set; }

    public required string Customer { get; set; }

    public string? Serial { get; set; }

    /// <summary>UTC, in milliseconds since 1970.</summary>
    public long ChangedAt { get; set; }

    /// <summary>The board card, JSON.</summary>
    public required string Card { get; set; }
}

/// <summary>One published revision of a guide; never changed.</summary>
public sealed class GuideRow
{
    public required string Code { get; set; }

    public int Revision { get; set; }

    /// <summary>The file as it was sent.</summary>
    public required string Yaml { get; set; }

    public required string By { get; set; }

    public long At { get; set; }
}

/// <summary>A guide being worked on; one a model.</summary>
public sealed class GuideDraftRow
{
    public required string Code { get; set; }

    public required string Yaml { get; set; }

    /// <summary>Grows with every save, so that two editors cannot overwrite each other unseen.</summary>
    public int Version { get; set; }

    public required string By { get; set; }

    public long At { get; set; }
}

/// <summary>What an order's entry suggests for the guide, and what became of it.</summary>
public sealed class SuggestionRow
{
    public int Order { get; set; }

    public int Sequence { get; set; }

    public required string Code { get; set; }

    public string? Step { get; set; }

    /// <summary>JSON.</summary>
    public required string Change { get; set; }

    public required string By { get; set; }

    public long At { get; set; }

    /// <summary>Open, Accepted or Declined.</summary>
    public required string State { get; set; }

    public string? DecidedBy { get; set; }
}

/// <summary>A picture without its camera's data, kept under the SHA-256 of its bytes.</summary>
public sealed class PictureRow
{
    public required string Hash { get; set; }

    /// <summary>JPEG, upright.</summary>
    public required byte[] Content { get; set; }

    /// <summary>The same, small.</summary>
    public required byte[] Small { get; set; }

    public int Width { get; set; }

    public int Height { get; set; }
}

/// <summary>A capture as it was sent, kept under the SHA-256 of its bytes.</summary>
public sealed class CaptureRow
{
    public required string Hash { get; set; }

    public required byte[] Content { get; set; }
}

/// <summary>Somebody at the bench.</summary>
public sealed class PersonRow
{
    public required string Id { get; set; }

    public required string Name { get; set; }

    public required string Role { get; set; }
}
