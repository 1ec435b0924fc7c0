using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Tags as scanners and people send them.</summary>
internal static class Tags
{
    /// <returns>The tag without surrounding blanks, or what is wrong with it. A scanner set to the wrong code page shows as control
    /// characters.</returns>
    public static Result<string> Read(string? text)
    {
        var tag = (text ?? "").Trim();
        if (tag.Length == 0)
            return new Fault("tag", "The tag is empty. Scan or type it again.");
        if (tag.Length > RegisterItem.LongestTag)
            return new Fault(
                "tag",
                $"{tag.Length} characters are too many for a tag; {RegisterItem.LongestTag} fit. The scanner may have read two labels as one."
            );
        if (tag.Any(char.IsControl))
            return new Fault(
                "tag",
                "The tag holds characters that cannot be printed. The scanner may be set to another alphabet; type the tag."
            );
        if (KeptText.Unseen(tag) is { } unseen)
            return new Fault("tag", unseen);
        return tag;
    }

    /// <summary>The tag that was meant, also where the code of an item's public page was scanned.</summary>
    public static async Task<Result<string>> MeantAsync(OsierwandDb db, string sent, CancellationToken cancel)
    {
        if (PublicCode.TokenIn(sent) is not { } token)
            return Read(sent);
        var named = await db
            .PublicLinks.Where(it => it.Token == token && it.RevokedAt == null)
            .Select(it => it.Item.Tag)
            .FirstOrDefaultAsync(cancel);
        return named is null
            ? new Fault("tag", "Its page was taken back, or is of another house. Type the tag; the label needs a new code.")
            : Read(named);
    }
}
