using PuppeteerSharp;
using PuppeteerSharp.Media;

namespace Osierwand.Server.Papers;

/// <summary>Where the machine's own Chromium is.</summary>
public sealed class PrinterOptions
{
    public string Browser { get; set; } = "/usr/bin/chromium";

    /// <summary>Longer than this no paper takes to print: one of 5,000 items takes half a minute on two cores.</summary>
    public int LongestSeconds { get; set; } = 180;
}

/// <summary>The paper could not be printed; what is said is for the person who asked.</summary>
public sealed class PrinterException(string said, Exception? inner = null) : Exception(said, inner);

/// <summary>
/// Prints papers with the Debian Chromium, kept warm between papers. It gets a whole page and nothing else: no script, no network, no
/// file. A browser that dies in mid-print is started again and asked once more; then the failure is told, and nothing half-made is kept.
/// </summary>
public sealed class PaperPrinter(Microsoft.Extensions.Options.IOptions<PrinterOptions> options, ILogger<PaperPrinter> log)
    : IAsyncDisposable
{
    private static readonly PdfOptions Sheet = new()
    {
        Format = PaperFormat.A4,
        PrintBackground = true,
        PreferCSSPageSize = true,
        Tagged = true,
        Outline = true,
    };

    private readonly SemaphoreSlim starting = new(1, 1);

    /// <summary>Two at once: more would only take turns on the same cores, and each takes memory of its own.</summary>
    private readonly SemaphoreSlim printing = new(2, 2);
    private IBrowser? warm;

    public const string NoBrowser = "There is no Chromium on this server to print with; the page itself can be read and printed.";

    /// <summary>There is a browser to print with.</summary>
    public bool IsThere => File.Exists(options.Value.Browser);

    /// <returns>The PDF, tagged.</returns>
    /// <exception cref="PrinterException">There is no browser, or it died twice.</exception>
    public async Task<byte[]> PdfAsync(string html, CancellationToken cancel)
    {
        await printing.WaitAsync(cancel);
        try
        {
            try
            {
                return await PrintAsync(html, cancel);
            }
            catch (Exception broke) when (broke is PuppeteerException or TimeoutException or ObjectDisposedException)
            {
                log.LogWarning(broke, "The browser broke in mid-print; it is asked once more");
                await DropAsync();
                return await PrintAsync(html, cancel);
            }
        }
        catch (Exception broke) when (broke is PuppeteerException or TimeoutException or ObjectDisposedException)
        {
            await DropAsync();
            throw new PrinterException(
                "The browser that prints papers broke twice over this one. Nothing was kept; the page itself can be read and printed.",
                broke
            );
        }
        finally
        {
            printing.Release();
        }
    }

    private async Task<byte[]> PrintAsync(string html, CancellationToken cancel)
    {
        var browser = await WarmAsync(cancel);
        await using var page = await browser.NewPageAsync();
        await page.SetJavaScriptEnabledAsync(false);
        await page.SetOfflineModeAsync(true);
        await page.SetContentAsync(html, new SetContentOptions { WaitUntil = [WaitUntilNavigation.Load], Timeout = Longest });
        return await page.PdfDataAsync(Sheet).WaitAsync(TimeSpan.FromMilliseconds(Longest), cancel);
    }

    private int Longest => options.Value.LongestSeconds * 1000;

    private async Task<IBrowser> WarmAsync(CancellationToken cancel)
    {
        await starting.WaitAsync(cancel);
        try
        {
            if (warm is { IsConnected: true, IsClosed: false })
                return warm;
            if (!IsThere)
                throw new PrinterException(NoBrowser);
            warm = await Puppeteer.LaunchAsync(
                new LaunchOptions
                {
                    ExecutablePath = options.Value.Browser,
                    Headless = true,
                    // Containers have no namespaces to put it in; what it is shown is ours alone, without script and without network.
                    Args =
                    [
                        "--no-sandbox",
                        "--disable-gpu",
                        "--disable-dev-shm-usage",
                        "--disable-background-networking",
                        "--disable-component-update",
                        "--disable-sync",
                        "--disable-extensions",
                        "--no-first-run",
                    ],
                    Timeout = Longest,
                }
            );
            return warm;
        }
        finally
        {
            starting.Release();
        }
    }

    private async Task DropAsync()
    {
        await starting.WaitAsync(CancellationToken.None);
        try
        {
            if (warm is { } browser)
                await browser.DisposeAsync();
        }
        catch (Exception broke) when (broke is PuppeteerException or InvalidOperationException)
        {
            log.LogDebug(broke, "It was gone already");
        }
        finally
        {
            warm = null;
            starting.Release();
        }
    }

    public async ValueTask DisposeAsync()
    {
        await DropAsync();
        starting.Dispose();
        printing.Dispose();
    }
}
