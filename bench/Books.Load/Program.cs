using System.Globalization;
using Osierwand.Bench.Books;

// fill CONNECTION N: writes N records into the books, as long as the demo's own, for the speed of a verification.
// scale URL CONNECTION: fills a house a hundred times the demo's, and asks its pages.
// papers URL CONNECTION: reports of 500 and 5,000 items beside Chromium alone, and labels.
// write URL FILE WRITERS: saves without a pause, whatever dies meanwhile, until FILE.stop is there; FILE gets the number of every save that
// was answered as stored.
switch (args)
{
    case ["fill", var connection, var count]:
        await Filling.RunAsync(connection, int.Parse(count, CultureInfo.InvariantCulture));
        return 0;
    case ["write", var url, var file, var writers]:
        return await Writing.RunAsync(new(url), file, int.Parse(writers, CultureInfo.InvariantCulture));
    case ["scale", var url, var connection]:
        await Scale.RunAsync(new(url), connection);
        return 0;
    case ["papers", var url, var connection]:
        await Papers.RunAsync(new(url), connection);
        return 0;
    default:
        await Console.Error.WriteLineAsync(
            "usage: fill CONNECTION N | write URL FILE WRITERS | scale URL CONNECTION | papers URL CONNECTION"
        );
        return 2;
}
