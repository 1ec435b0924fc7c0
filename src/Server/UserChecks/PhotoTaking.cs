using Osierwand.Core;
using Osierwand.Store.Entities;
using SkiaSharp;

namespace Osierwand.Server.UserChecks;

/// <summary>A picture as it is kept.</summary>
internal sealed record TakenPicture(byte[] Picture, byte[] Thumbnail, int Width, int Height);

/// <summary>Makes a photo anew: what it is is told by its content, not its name; nothing of its own data is kept but the pixels.</summary>
internal static class PhotoTaking
{
    /// <summary>Of what is sent.</summary>
    public const int MostBytes = 12 * 1024 * 1024;

    /// <summary>A picture of more is refused before a pixel of it is unpacked.</summary>
    private const long MostPixels = 60_000_000;
    private const int LongestEdge = 1600;
    private const int ThumbnailEdge = 240;
    private const int Quality = 82;

    public static Result<TakenPicture> Take(byte[] sent)
    {
        if (sent.Length == 0)
            return new Fault("photo", "Nothing was sent.");
        using var data = SKData.CreateCopy(sent);
        using var codec = SKCodec.Create(data);
        if (codec?.EncodedFormat is not (SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Png or SKEncodedImageFormat.Webp))
            return new Fault("photo", "This is no photo: JPEG, PNG and WebP are taken, whatever the file is called.");
        var (width, height) = (codec.Info.Width, codec.Info.Height);
        if ((long)width * height > MostPixels)
            return new Fault("photo", $"{width} × {height} is too large a picture. Take it with a smaller resolution.");
        using var whole = SKBitmap.Decode(codec);
        if (whole is null)
            return new Fault("photo", "The photo cannot be read: it is broken or not whole.");
        using var upright = Upright(whole, codec.EncodedOrigin);
        using var picture = Within(upright, LongestEdge);
        using var thumbnail = Within(upright, ThumbnailEdge);
        return new TakenPicture(Encoded(picture), Encoded(thumbnail), picture.Width, picture.Height);
    }

    private static byte[] Encoded(SKBitmap bitmap)
    {
        using var encoded = bitmap.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return encoded.ToArray();
    }

    private static SKBitmap Within(SKBitmap of, int edge)
    {
        var scale = Math.Min(1.0, edge / (double)Math.Max(of.Width, of.Height));
        var size = new SKImageInfo(Math.Max(1, (int)(of.Width * scale)), Math.Max(1, (int)(of.Height * scale)), SKColorType.Rgba8888);
        // On white: what was transparent would turn black in a JPEG.
        var made = new SKBitmap(size);
        using var canvas = new SKCanvas(made);
        using var image = SKImage.FromBitmap(of);
        canvas.Clear(SKColors.White);
        canvas.DrawImage(image, new SKRect(0, 0, size.Width, size.Height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return made;
    }

    /// <summary>Turned as the camera said it was held; its note of that goes with the rest of its data.</summary>
    private static SKBitmap Upright(SKBitmap of, SKEncodedOrigin origin)
    {
        var isTurned =
            origin is SKEncodedOrigin.RightTop or SKEncodedOrigin.LeftBottom or SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightBottom;
        var made = new SKBitmap(isTurned ? of.Height : of.Width, isTurned ? of.Width : of.Height);
        using var canvas = new SKCanvas(made);
        canvas.Clear(SKColors.White);
        switch (origin)
        {
            case SKEncodedOrigin.BottomRight:
                canvas.RotateDegrees(180, of.Width / 2f, of.Height / 2f);
                break;
            case SKEncodedOrigin.RightTop:
                canvas.Translate(made.Width, 0);
                canvas.RotateDegrees(90);
                break;
            case SKEncodedOrigin.LeftBottom:
                canvas.Translate(0, made.Height);
                canvas.RotateDegrees(270);
                break;
        }
        using var image = SKImage.FromBitmap(of);
        canvas.DrawImage(image, 0, 0, SKSamplingOptions.Default);
        return made;
    }
}

/// <summary>Where photos are kept.</summary>
internal interface IPhotoStore
{
    /// <summary>Goes in with the handler's own SaveChanges.</summary>
    /// <param name="step">Of a good earth point: key of the step that is measured there.</param>
    Guid Add(Guid itemId, PhotoOf of, string by, TakenPicture taken, string? step = null);

    /// <returns>The JPEG; null where there is none that this person may see.</returns>
    Task<byte[]?> FindAsync(Guid id, bool thumbnail, CancellationToken cancel);
}
