using Osierwand.Core.Looking;

namespace Osierwand.Store.Entities;

/// <summary>The link behind an item's code: whoever has it may say what a look before use found, and read when it was last checked.</summary>
public sealed class PublicLink
{
    /// <summary>128 random bits: nobody guesses it, and it is printed on the item.</summary>
    public required string Token { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset? RevokedAt { get; set; }
}

/// <summary>What an equipment user said. Never edited but for who of the house has seen it.</summary>
public sealed class UserCheck
{
    public const int LongestWords = 500;
    public const int LongestName = 60;

    /// <summary>Made by the page, so that sending twice stores once.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public DateTimeOffset At { get; set; }
    public UserReport Report { get; set; }
    public string Words { get; set; } = "";
    public string Name { get; set; } = "";

    /// <summary>Who said it, also where they gave no name.</summary>
    public string From => Name.Length > 0 ? Name : "an equipment user";

    /// <summary>The item was taken out of use by it.</summary>
    public bool TookOutOfUse { get; set; }
    public Guid? PhotoId { get; set; }
    public string? SeenBy { get; set; }
    public DateTimeOffset? SeenAt { get; set; }
    public string? Decision { get; set; }
}

/// <summary>What a photo shows.</summary>
public enum PhotoOf
{
    Plate,
    Damage,
    EarthPoint,
    Other,
}

/// <summary>A photo of an item, made anew from what was sent: without where it was taken, no larger than it must be.</summary>
public sealed class Photo
{
    public const int LongestStep = 300;

    public Guid Id { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;
    public PhotoOf Of { get; set; }

    /// <summary>Of a good earth point: key of the step that is measured there; null where nobody said.</summary>
    public string? Step { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Who took it: one of the house, or what an equipment user called themselves.</summary>
    public required string By { get; set; }

    /// <summary>JPEG.</summary>
    public required byte[] Picture { get; set; }
    public required byte[] Thumbnail { get; set; }
    public int Width { get; set; }
    public int Height { get; set; }
}
