using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Npgsql;
using Osierwand.Core;
using Osierwand.Instruments;

namespace Osierwand.Server.Hosting;

/// <summary>Turns what went wrong into problem details: what happened, what was kept, what to do.</summary>
internal sealed class Problems(IProblemDetailsService problems, ILogger<Problems> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext context, Exception exception, CancellationToken cancel)
    {
        // A statement may have been stored and its answer lost: what is not known is not called "not saved".
        var isWrite = !HttpMethods.IsGet(context.Request.Method);
        var (status, title, detail) = exception switch
        {
            BadHttpRequestException bad => (bad.StatusCode, "The request was not understood.", bad.InnerException?.Message ?? bad.Message),
            // A kind of event or a shape that this version does not know.
            NotSupportedException { Source: "System.Text.Json" } unknown => (
                StatusCodes.Status400BadRequest,
                "The request was not understood.",
                unknown.Message
            ),
            InstrumentException trouble => (StatusCodes.Status502BadGateway, "The instrument did not deliver.", trouble.Message),
            _ when IsDatabaseDown(exception) => (
                StatusCodes.Status503ServiceUnavailable,
                "The database does not answer.",
                isWrite
                    ? "Whether this was saved is not known. What you entered is kept on this screen; save again when the database is "
                        + "back: what was stored already is told then and stored once."
                    : "Nothing is lost. Try again when it is back."
            ),
            _ => (
                StatusCodes.Status500InternalServerError,
                "Something failed in Osierwand.",
                isWrite
                    ? "Whether this was saved is not known. What you entered is kept on this screen; look whether it is there before you repeat it."
                    : "Nothing is lost. Try again; if it fails again, tell whoever runs this house."
            ),
        };
        if (status >= 500)
            log.LogError(exception, "{Title}", title);
        context.Response.StatusCode = status;
        return await problems.TryWriteAsync(
            new()
            {
                HttpContext = context,
                ProblemDetails = new ProblemDetails
                {
                    Status = status,
                    Title = title,
                    Detail = detail,
                },
            }
        );
    }

    private static bool IsDatabaseDown(Exception? exception) =>
        exception switch
        {
            null => false,
            PostgresException postgres => postgres.SqlState.StartsWith("57P", StringComparison.Ordinal)
                || postgres.SqlState.StartsWith("53", StringComparison.Ordinal),
            NpgsqlException or TimeoutException => true,
            _ => IsDatabaseDown(exception.InnerException),
        };
}

/// <summary>Problem details for what a user got wrong, with the offending place.</summary>
internal static class Refusals
{
    public static Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult Of(
        int status,
        string title,
        string detail,
        IEnumerable<Fault>? faults = null
    ) =>
        TypedResults.Problem(
            statusCode: status,
            title: title,
            detail: detail,
            extensions: faults is null ? null : new Dictionary<string, object?> { ["faults"] = faults.ToArray() }
        );

    public static Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult Invalid(string title, params Fault[] faults) =>
        Of(StatusCodes.Status422UnprocessableEntity, title, string.Join(" ", faults.Select(fault => fault.Message)), faults);

    public static Microsoft.AspNetCore.Http.HttpResults.ProblemHttpResult NotFound(string what) =>
        Of(StatusCodes.Status404NotFound, $"There is no such {what}.", "It may have been taken away, or the address was mistyped.");
}
