using Osierwand.Server.Papers;

namespace Osierwand.Server.Hosting;

/// <summary>Tells browsers what the pages may do: nothing from elsewhere, no inline script, no frames.</summary>
internal sealed class Headers(RequestDelegate next)
{
    // The style engine writes its rules into the page; scripts never do. The rules of the trade run as WebAssembly.
    private const string Policy =
        "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; worker-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
        + "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public Task InvokeAsync(HttpContext context)
    {
        // At the very last: an answer that is made anew after a failure loses what was set before.
        context.Response.OnStarting(() =>
        {
            var headers = context.Response.Headers;
            headers.ContentSecurityPolicy = PaperHeaders.Is(context) ? PaperHeaders.Policy : Policy;
            headers.XContentTypeOptions = "nosniff";
            headers["Referrer-Policy"] = "same-origin";
            headers["Cross-Origin-Opener-Policy"] = "same-origin";
            headers["Cross-Origin-Resource-Policy"] = "same-origin";
            headers["Permissions-Policy"] = "geolocation=(), microphone=()";
            if (context.Request.Path.StartsWithSegments("/api"))
                headers.CacheControl = "no-store";
            return Task.CompletedTask;
        });
        return next(context);
    }
}

/// <summary>
/// Refuses writes that another site's page sends, and its conversations with the bench. The cookie is SameSite=Strict already; this also
/// holds where a browser's notion of "site" is wider than this origin.
/// </summary>
internal sealed class SameSiteWrites(RequestDelegate next)
{
    public Task InvokeAsync(HttpContext context)
    {
        var request = context.Request;
        var isRead = HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method) || HttpMethods.IsOptions(request.Method);
        // A WebSocket begins as a read.
        if (isRead && !request.Path.StartsWithSegments("/hubs"))
            return next(context);
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        var origin = request.Headers.Origin.ToString();
        var foreign =
            (site.Length > 0 && site is not ("same-origin" or "none"))
            || (origin.Length > 0 && origin != $"{request.Scheme}://{request.Host}");
        return foreign
            ? Results
                .Problem(statusCode: StatusCodes.Status403Forbidden, title: "This write came from another site and was refused.")
                .ExecuteAsync(context)
            : next(context);
    }
}
