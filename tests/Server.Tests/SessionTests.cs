using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>How a sign-in begins, how long it lasts, and what ends it at once.</summary>
[Collection(PeopleHouse.Name)]
public class SessionTests(World world)
{
    internal const string Good = "reed on the far bank 9";
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<HttpStatusCode> Me(HttpClient client)
    {
        using var answer = await client.GetAsync(new Uri("/api/v1/people/me", UriKind.Relative), Cancel);
        return answer.StatusCode;
    }

    /// <summary>Invited by a lead and in by their own password.</summary>
    internal static async Task<(Guid Id, string UserName, HttpClient In)> Newcomer(
        Host host,
        string role = "technician",
        string name = "Nan Whinfell"
    )
    {
        using var lead = await host.SignedIn("maud");
        var userName = $"n{Guid.NewGuid():N}"[..12];
        var clients = role == "viewer" ? new[] { "LMR" } : [];
        var invited = await lead.Post(
            "/api/v1/people",
            new
            {
                userName,
                displayName = name,
                initials = "NW",
                role,
                clients,
            }
        );
        invited.Status.ShouldBe(200);
        var client = host.CreateClient();
        (await client.Post("/api/v1/people/link", new { token = invited.Body.Text("token"), password = Good })).Status.ShouldBe(200);
        return (invited.Body.GetProperty("personId").GetGuid(), userName, client);
    }

    [Fact]
    public async Task A_copied_cookie_is_worth_nothing_once_its_owner_has_signed_out()
    {
        using var raw = world.App.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        using var entered = await raw.PostAsync(new Uri("/api/v1/people/demo-sign-in?userName=ida", UriKind.Relative), null, Cancel);
        var cookie = entered.Headers.GetValues("Set-Cookie").Single(it => it.StartsWith("osierwand=", StringComparison.Ordinal));
        cookie.ShouldContain("httponly");
        cookie.ShouldContain("samesite=strict");
        raw.DefaultRequestHeaders.Add("Cookie", cookie.Split(';')[0]);
        (await Me(raw)).ShouldBe(HttpStatusCode.OK);
        (await raw.PostAsync(new Uri("/api/v1/people/sign-out", UriKind.Relative), null, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        (await Me(raw)).ShouldBe(HttpStatusCode.Unauthorized);
    }

    /// <summary>A tablet goes from hand to hand: whoever kept a copy of the first one's cookie has nobody's, least of all the next one's.</summary>
    [Fact]
    public async Task Whoever_signs_in_after_another_on_one_browser_has_a_session_of_their_own()
    {
        using var raw = world.App.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false });
        async Task<string> Enter(string who, string? cookie)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/people/demo-sign-in?userName={who}");
            if (cookie is not null)
                request.Headers.Add("Cookie", cookie);
            using var entered = await raw.SendAsync(request, Cancel);
            return entered.Headers.GetValues("Set-Cookie").Single(it => it.StartsWith("osierwand=", StringComparison.Ordinal)).Split(';')[
                0
            ];
        }

        async Task<string?> Who(string cookie)
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, "/api/v1/people/me");
            request.Headers.Add("Cookie", cookie);
            using var answer = await raw.SendAsync(request, Cancel);
            return answer.IsSuccessStatusCode
                ? (await answer.Content.ReadFromJsonAsync<System.Text.Json.JsonElement>(Cancel)).Text("userName")
                : null;
        }

        var first = await Enter("ida", null);
        (await Who(first)).ShouldBe("ida");
        var second = await Enter("maud", first);
        (await Who(second)).ShouldBe("maud");
        (await Who(first)).ShouldBeNull();
    }

    [Fact]
    public async Task A_sign_in_ends_unused_and_however_busy_it_is_kept()
    {
        await using var database = await OwnDatabase.WithDemoAsync();
        var clock = new FakeTimeProvider(DateTimeOffset.UtcNow);
        await using var host = new Host(
            database.Connection,
            settings: new Dictionary<string, string> { ["SignIn:IdleMinutes"] = "60", ["SignIn:LongestHours"] = "5" },
            clock: clock
        );
        using var idle = await host.SignedIn();
        // A page that asks by itself, on a tablet that lies on a shelf.
        using var shelved = await host.SignedIn();
        shelved.DefaultRequestHeaders.Add(Sessions.UnattendedHeader, "yes");
        using var busy = await host.SignedIn("rufus");
        for (var minutes = 0; minutes < 250; minutes += 50)
        {
            (await Me(busy)).ShouldBe(HttpStatusCode.OK, $"after {minutes} minutes");
            (await Me(shelved)).ShouldBe(minutes < 60 ? HttpStatusCode.OK : HttpStatusCode.Unauthorized, $"after {minutes} minutes");
            clock.Advance(TimeSpan.FromMinutes(50));
        }
        (await Me(busy)).ShouldBe(HttpStatusCode.OK);
        clock.Advance(TimeSpan.FromMinutes(49));
        (await Me(busy)).ShouldBe(HttpStatusCode.OK, "a minute before its five hours are over");
        clock.Advance(TimeSpan.FromMinutes(1));
        (await Me(busy)).ShouldBe(HttpStatusCode.Unauthorized);
        (await Me(idle)).ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task What_a_lead_changes_holds_from_the_next_request_on()
    {
        using var lead = await world.App.SignedIn("maud");
        var (id, userName, newcomer) = await Newcomer(world.App);
        (await newcomer.GetAsync(new Uri("/api/v1/rounds/today", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await lead.Post($"/api/v1/people/{id}/role", new { role = "viewer", clients = new[] { "KRD" } })).Status.ShouldBe(204);
        (await newcomer.GetAsync(new Uri("/api/v1/rounds/today", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        var rows = (await newcomer.Get("/api/v1/register")).GetProperty("rows").EnumerateArray().ToArray();
        rows.ShouldNotBeEmpty();
        rows.ShouldAllBe(row => row.Text("clientCode") == "KRD");

        (await lead.Post($"/api/v1/people/{id}/sign-out", new { })).Status.ShouldBe(204);
        (await Me(newcomer)).ShouldBe(HttpStatusCode.Unauthorized);
        (await newcomer.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        (await lead.Post($"/api/v1/people/{id}/close", new { })).Status.ShouldBe(204);
        (await Me(newcomer)).ShouldBe(HttpStatusCode.Unauthorized);
        (await newcomer.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(401);
        (await lead.Post($"/api/v1/people/{id}/reopen", new { })).Status.ShouldBe(204);
        (await newcomer.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);

        // A new link takes the password away at once, and the open sessions with it.
        var link = await lead.Post($"/api/v1/people/{id}/link", new { });
        (await Me(newcomer)).ShouldBe(HttpStatusCode.Unauthorized);
        (await newcomer.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(401);
        (
            await newcomer.Post("/api/v1/people/link", new { token = link.Body.Text("token"), password = "another bank, 7 reeds" })
        ).Status.ShouldBe(200);
        (await Me(newcomer)).ShouldBe(HttpStatusCode.OK);
        newcomer.Dispose();
    }

    [Fact]
    public async Task A_link_sets_one_password_once_whoever_else_tries_at_the_same_moment()
    {
        using var lead = await world.App.SignedIn("maud");
        var (id, _, first) = await Newcomer(world.App);
        first.Dispose();
        var token = (await lead.Post($"/api/v1/people/{id}/link", new { })).Body.Text("token");
        using var stranger = world.App.CreateClient();
        (await stranger.Post("/api/v1/people/link/look", new { token })).Body.Text("displayName").ShouldBe("Nan Whinfell");
        (await stranger.Post("/api/v1/people/link", new { token, password = "Password1234" })).Status.ShouldBe(422);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(async n =>
                {
                    using var one = world.App.CreateClient();
                    return (await one.Post("/api/v1/people/link", new { token, password = $"reed number {n} of the bank" })).Status;
                })
        );
        answers.Count(it => it == 200).ShouldBe(1);
        answers.Count(it => it == 404).ShouldBe(5);
        (await stranger.Post("/api/v1/people/link/look", new { token })).Status.ShouldBe(404);
        (await stranger.Post("/api/v1/people/link/look", new { token = "no such token" })).Status.ShouldBe(404);
    }

    [Fact]
    public async Task The_house_is_never_left_without_a_lead()
    {
        await using var database = await OwnDatabase.WithDemoAsync();
        await using var host = new Host(database.Connection);
        using var lead = await host.SignedIn("maud");
        var me = (await lead.Get("/api/v1/people/me")).GetProperty("id").GetGuid();
        (await lead.Post($"/api/v1/people/{me}/role", new { role = "technician", clients = Array.Empty<string>() })).Status.ShouldBe(422);
        (await lead.Post($"/api/v1/people/{me}/close", new { })).Status.ShouldBe(422);
        // Two leads who take the role from each other at the same moment: one of them stays.
        var (other, _, second) = await Newcomer(host, "lead");
        var both = await Task.WhenAll(
            lead.Post($"/api/v1/people/{other}/close", new { }),
            second.Post($"/api/v1/people/{me}/close", new { })
        );
        both.Select(it => it.Status).Count(it => it == 204).ShouldBe(1);
        second.Dispose();
    }

    [Fact]
    public async Task An_empty_house_is_set_up_once_with_the_token_that_its_start_printed()
    {
        await using var database = await OwnDatabase.EmptyAsync();
        await using var host = new Host(
            database.Connection,
            settings: new Dictionary<string, string> { ["Demo:Enabled"] = "false", ["SetUp:Token"] = "the-token-of-this-house" }
        );
        object First(string token, int n) =>
            new
            {
                token,
                userName = $"lead{n}",
                displayName = "Elsbeth Carrow",
                initials = "EC",
                password = Good,
            };
        using var stranger = host.CreateClient();
        (await stranger.Get("/api/v1/people/sign-in")).GetProperty("needsFirstPerson").GetBoolean().ShouldBeTrue();
        (await stranger.Post("/api/v1/people/first", First("a guess", 0))).Status.ShouldBe(403);
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 6).Select(n => host.CreateClient().Post("/api/v1/people/first", First("the-token-of-this-house", n)))
        );
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.Where(it => it.Status != 200).ShouldAllBe(it => it.Status == 409);
        (await stranger.Get("/api/v1/people/sign-in")).GetProperty("needsFirstPerson").GetBoolean().ShouldBeFalse();
        // Without demo data there is no demo door.
        using var door = await stranger.PostAsync(new Uri("/api/v1/people/demo-sign-in?userName=lead0", UriKind.Relative), null, Cancel);
        door.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_demos_door_opens_for_invented_people_alone()
    {
        var (_, userName, newcomer) = await Newcomer(world.App);
        newcomer.Dispose();
        using var stranger = world.App.CreateClient();
        // How often its own address may ask is nobody else's doing.
        stranger.DefaultRequestHeaders.Add(Host.AddressHeader, "203.0.113.10");
        using var answer = await stranger.PostAsync(
            new Uri($"/api/v1/people/demo-sign-in?userName={userName}", UriKind.Relative),
            null,
            Cancel
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await stranger.Get("/api/v1/people/sign-in"))
            .GetProperty("demoPeople")
            .EnumerateArray()
            .ShouldNotContain(it => it.Text("userName") == userName);
        // And invented people have no password that somebody could guess.
        (await stranger.Post("/api/v1/people/sign-in", new { userName = "maud", password = "withy-lane-demo-2" })).Status.ShouldBe(401);
    }

    [Fact]
    public async Task A_known_and_an_unknown_name_get_the_same_answer_and_cost_the_same_work()
    {
        var (_, userName, newcomer) = await Newcomer(world.App);
        newcomer.Dispose();
        using var stranger = world.App.CreateClient();
        var times = new Dictionary<string, List<double>>();
        foreach (var name in Enumerable.Range(0, 7).SelectMany(_ => new[] { userName, "nobody-of-this-name" }))
        {
            stranger.DefaultRequestHeaders.Remove(Host.AddressHeader);
            stranger.DefaultRequestHeaders.Add(Host.AddressHeader, $"10.1.{Random.Shared.Next(250)}.{Random.Shared.Next(250)}");
            var started = System.Diagnostics.Stopwatch.GetTimestamp();
            var (status, body) = await stranger.Post("/api/v1/people/sign-in", new { userName = name, password = "not the right one" });
            (times.TryGetValue(name, out var list) ? list : times[name] = []).Add(
                System.Diagnostics.Stopwatch.GetElapsedTime(started).TotalMilliseconds
            );
            status.ShouldBe(401);
            body.Text("detail").ShouldBe("Name and password do not fit together.");
        }
        // A hash is computed for both; without it the one would take a fiftieth of the other.
        var (known, unknown) = (Median(times[userName]), Median(times["nobody-of-this-name"]));
        (unknown / known).ShouldBeInRange(0.3, 3.3);
    }

    private static double Median(List<double> of) => of.Order().ElementAt(of.Count / 2);

    [Fact]
    public async Task Guessing_is_slowed_at_its_address_and_a_stranger_locks_nobody_out()
    {
        var (_, userName, own) = await Newcomer(world.App);
        // Signed in on this browser before: it has a count of its own.
        (await own.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        using var stranger = world.App.CreateClient();
        stranger.DefaultRequestHeaders.Add(Host.AddressHeader, "203.0.113.9");
        var statuses = new List<int>();
        for (var n = 0; n < 10; n++)
            statuses.Add((await stranger.Post("/api/v1/people/sign-in", new { userName, password = $"guess number {n}" })).Status);
        statuses.Take(8).ShouldAllBe(it => it == 401);
        statuses.Skip(8).ShouldAllBe(it => it == 429);
        using var told = await stranger.PostAsJsonAsync(
            new Uri("/api/v1/people/sign-in", UriKind.Relative),
            new { userName, password = Good },
            Cancel
        );
        told.StatusCode.ShouldBe(HttpStatusCode.TooManyRequests);
        told.Headers.RetryAfter.ShouldNotBeNull().Delta!.Value.TotalMinutes.ShouldBeInRange(10, 15);
        // The right password from the right browser, and from another address: neither waits for the stranger.
        (await own.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        using var elsewhere = world.App.CreateClient();
        elsewhere.DefaultRequestHeaders.Add(Host.AddressHeader, "198.51.100.4");
        (await elsewhere.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        // Names that nobody has are slowed alike: the answer tells nothing.
        var unknown = new List<int>();
        for (var n = 0; n < 9; n++)
            unknown.Add((await stranger.Post("/api/v1/people/sign-in", new { userName = "nobody-at-all", password = "x" })).Status);
        unknown[^1].ShouldBe(429);
        own.Dispose();
    }

    [Fact]
    public async Task A_changed_password_ends_every_other_session()
    {
        var (_, userName, own) = await Newcomer(world.App);
        using var other = world.App.CreateClient();
        (await other.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        (await own.Post("/api/v1/people/me/password", new { current = "not it at all", next = "two herons stood there" })).Status.ShouldBe(
            422
        );
        (await own.Post("/api/v1/people/me/password", new { current = Good, next = "nanwhinfell1234" })).Status.ShouldBe(422);
        (await Me(other)).ShouldBe(HttpStatusCode.OK);
        (await own.Post("/api/v1/people/me/password", new { current = Good, next = "two herons stood there" })).Status.ShouldBe(204);
        (await Me(own)).ShouldBe(HttpStatusCode.OK);
        (await Me(other)).ShouldBe(HttpStatusCode.Unauthorized);
        (await other.Post("/api/v1/people/sign-in", new { userName, password = "two herons stood there" })).Status.ShouldBe(200);
        // One's own sessions can be listed and ended; another's cannot.
        var sessions = (await own.Get("/api/v1/people/me/account")).GetProperty("sessions").EnumerateArray().ToArray();
        sessions.Count(it => it.GetProperty("isThis").GetBoolean()).ShouldBe(1);
        var there = sessions.Single(it => !it.GetProperty("isThis").GetBoolean()).GetProperty("id").GetGuid();
        using var ida = await world.App.SignedIn();
        (await ida.Post($"/api/v1/people/me/sessions/{there}/end", new { })).Status.ShouldBe(404);
        (await own.Post($"/api/v1/people/me/sessions/{there}/end", new { })).Status.ShouldBe(204);
        (await Me(other)).ShouldBe(HttpStatusCode.Unauthorized);
        own.Dispose();
    }

    [Fact]
    public async Task With_a_second_step_the_password_alone_opens_nothing_and_no_code_opens_twice()
    {
        var (id, userName, own) = await Newcomer(world.App);
        var offer = (await own.Post("/api/v1/people/me/two-step", new { })).Body;
        (await own.Post("/api/v1/people/me/two-step/confirm", new { text = "000000" })).Status.ShouldBe(422);
        var code = Totp(offer.Text("secret"), DateTimeOffset.UtcNow);
        var spare = (await own.Post("/api/v1/people/me/two-step/confirm", new { text = code })).Body.GetProperty("codes");
        spare.GetArrayLength().ShouldBe(8);
        using var other = world.App.CreateClient();
        var bare = await other.Post("/api/v1/people/sign-in", new { userName, password = Good });
        (bare.Status, bare.Body.Text("needs")).ShouldBe((401, "code"));
        // Whether an account asks for a code is told to nobody without its password.
        (await other.Post("/api/v1/people/sign-in", new { userName, password = "wrong one" }))
            .Body.TryGetProperty("needs", out _)
            .ShouldBeFalse();
        (
            await other.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName,
                    password = Good,
                    code,
                }
            )
        ).Status.ShouldBe(401, "it was used to turn it on");
        (
            await other.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName,
                    password = Good,
                    code = spare[0].GetString(),
                }
            )
        ).Status.ShouldBe(200);
        (
            await other.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName,
                    password = Good,
                    code = spare[0].GetString(),
                }
            )
        ).Status.ShouldBe(401);
        // A later step's code opens once.
        var next = Totp(offer.Text("secret"), DateTimeOffset.UtcNow.AddSeconds(30));
        (
            await other.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName,
                    password = Good,
                    code = next,
                }
            )
        ).Status.ShouldBe(200);
        (
            await other.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName,
                    password = Good,
                    code = next,
                }
            )
        ).Status.ShouldBe(401);
        using var lead = await world.App.SignedIn("maud");
        (await lead.Post($"/api/v1/people/{id}/drop-two-step", new { })).Status.ShouldBe(204);
        (await other.Post("/api/v1/people/sign-in", new { userName, password = Good })).Status.ShouldBe(200);
        own.Dispose();
    }

    /// <summary>RFC 6238 as a phone computes it: HMAC-SHA-1 over the count of half minutes, six digits.</summary>
    private static string Totp(string base32, DateTimeOffset at)
    {
        const string alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(base32.Select(it => Convert.ToString(alphabet.IndexOf(it, StringComparison.Ordinal), 2).PadLeft(5, '0')));
        var key = Enumerable.Range(0, bits.Length / 8).Select(it => Convert.ToByte(bits.Substring(8 * it, 8), 2)).ToArray();
        var count = BitConverter.GetBytes(at.ToUnixTimeSeconds() / 30).Reverse().ToArray();
#pragma warning disable CA5350 // the standard's own, and every phone's
        var hash = System.Security.Cryptography.HMACSHA1.HashData(key, count);
#pragma warning restore CA5350
        var from = hash[^1] & 0xf;
        var number = ((hash[from] & 0x7f) << 24) | (hash[from + 1] << 16) | (hash[from + 2] << 8) | hash[from + 3];
        return (number % 1_000_000).ToString("000000", System.Globalization.CultureInfo.InvariantCulture);
    }

    [Theory]
    [InlineData("short one", "at least 12")]
    [InlineData("aaaaaaaaaaaaaaaa", "over and over")]
    [InlineData("abababababab1", "over and over")]
    [InlineData("1qaz2wsx3edc", "lists")]
    [InlineData("qwerty123456", "lists")]
    [InlineData("P@ssword123456", "guessed first")]
    [InlineData("Osierwand2026!", "guessed first")]
    [InlineData("NanWhinfell2026", "guessed first")]
    [InlineData("abcdefghijklmnop", "guessed first")]
    [InlineData("asdfghjkl;12345", "guessed first")]
    [InlineData("reed on the far bank 9", null)]
    [InlineData("Ofen-Tür-Kessel-4", null)]
    [InlineData("試験済みの電気ポットです。", null)]
    public void Passwords_that_are_guessed_first_are_refused_with_the_reason(string password, string? why)
    {
        var refusal = PasswordRules.Refusal(
            password,
            new Person
            {
                UserName = "nan",
                DisplayName = "Nan Whinfell",
                Initials = "NW",
            }
        );
        if (why is null)
            refusal.ShouldBeNull();
        else
            refusal.ShouldNotBeNull().ShouldContain(why);
    }
}
