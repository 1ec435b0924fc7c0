using Microsoft.EntityFrameworkCore;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.UserChecks;

/// <summary>Photos beside everything else: they are copied out and brought back with the house's data.</summary>
internal sealed class DatabasePhotos(OsierwandDb db, TimeProvider time) : IPhotoStore
{
    public Guid Add(Guid itemId, PhotoOf of, string by, TakenPicture taken, string? step = null)
    {
        var photo = new Photo
        {
            Id = Guid.CreateVersion7(),
            ItemId = itemId,
            Of = of,
            Step = step,
            At = time.GetUtcNow(),
            By = by,
            Picture = taken.Picture,
            Thumbnail = taken.Thumbnail,
            Width = taken.Width,
            Height = taken.Height,
        };
        db.Photos.Add(photo);
        return photo.Id;
    }

    public Task<byte[]?> FindAsync(Guid id, bool thumbnail, CancellationToken cancel) =>
        OsierwandDb
            .WithLoose(db.Photos)
            .Where(it => it.Id == id)
            .Select(it => thumbnail ? it.Thumbnail : it.Picture)
            .FirstOrDefaultAsync(cancel);
}
