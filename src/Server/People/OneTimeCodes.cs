using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>Codes from an app on the phone (RFC 6238, 30 seconds, six digits), and spare ones on paper. None serves twice.</summary>
public sealed class OneTimeCodes(UserManager<Person> people, OsierwandDb db, TimeProvider time)
{
    /// <summary>Identity takes the codes of some steps before and after now.</summary>
    private const int Around = 2;
    private const int StepSeconds = 30;

    internal async Task<bool> TakeAsync(Person person, string code, CancellationToken cancel)
    {
        var plain = code.Replace(" ", "", StringComparison.Ordinal).Trim();
        var isRight = await people.VerifyTwoFactorTokenAsync(person, TokenOptions.DefaultAuthenticatorProvider, plain);
        if (!isRight)
            return (await people.RedeemTwoFactorRecoveryCodeAsync(person, plain)).Succeeded;
        // Whichever step it was of: after it nothing is taken until that code cannot be right any more.
        var step = time.GetUtcNow().ToUnixTimeSeconds() / StepSeconds;
        var fresh = await db
            .Users.Where(it =>
                it.Id == person.Id && (it.LastCodeStep == null || it.LastCodeStep + 2 * Around < step || it.LastCode != plain)
            )
            .ExecuteUpdateAsync(set => set.SetProperty(it => it.LastCodeStep, step).SetProperty(it => it.LastCode, plain), cancel);
        // Identity writes a person back whole: what this one holds must not be older than what was just written.
        if (fresh == 1)
            (person.LastCode, person.LastCodeStep) = (plain, step);
        return fresh == 1;
    }
}
