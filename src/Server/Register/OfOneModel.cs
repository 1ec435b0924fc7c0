using Microsoft.EntityFrameworkCore;
using Osierwand.Server.Hosting;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Items that were made alike.</summary>
internal static class OfOneModel
{
    /// <summary>Of this maker and model, whatever the case of their letters; found by way of the index over all words.</summary>
    public static IQueryable<RegisterItem> OfModel(this IQueryable<RegisterItem> items, string maker, string model)
    {
        var (makes, named) = (maker.Trim().ToLowerInvariant(), model.Trim().ToLowerInvariant());
        var like = $"%{Like.Escape(model.Trim())}%";
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database
        return items
            .Where(it => EF.Functions.ILike(it.Words, like, Like.EscapedBy))
            .Where(it => it.Maker!.ToLower() == makes && it.Model!.ToLower() == named);
#pragma warning restore CA1304, CA1311, CA1862
    }
}
