using Microsoft.AspNetCore.StaticFiles;

namespace Osierwand.Server.Hosting;

/// <summary>Sends the engine as it was compressed when it was built: two megabytes are not compressed anew for every tablet.</summary>
internal sealed class PreCompressed(RequestDelegate next, IWebHostEnvironment host)
{
    private static readonly FileExtensionContentTypeProvider Types = new();

    /// <summary>Files whose names change with their content are kept by browsers for good.</summary>
    public static bool IsNamedByContent(PathString path) => path.StartsWithSegments("/assets") || path.StartsWithSegments("/engine");

    public async Task InvokeAsync(HttpContext context)
    {
        var path = context.Request.Path;
        var takesBrotli = context.Request.Headers.AcceptEncoding.ToString().Contains("br", StringComparison.Ordinal);
        if (
            !path.StartsWithSegments("/engine")
            || !takesBrotli
            || host.WebRootFileProvider.GetFileInfo($"{path}.br") is not { Exists: true } file
        )
        {
            await next(context);
            return;
        }
        var headers = context.Response.Headers;
        context.Response.ContentType = Types.TryGetContentType(path, out var type) ? type : "application/octet-stream";
        (headers.ContentEncoding, headers.Vary, headers.CacheControl) = ("br", "Accept-Encoding", "public, max-age=31536000, immutable");
        await context.Response.SendFileAsync(file, context.RequestAborted);
    }
}
