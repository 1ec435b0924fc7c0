using System.Net;
using System.Net.Http.Json;
using System.Reflection;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Osierwand.Server.Bench;
using Osierwand.Server.People;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Who may call what, endpoint by endpoint. What the server describes and is in no line here fails, and the reverse.</summary>
[Collection(PeopleHouse.Name)]
public partial class AccessTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly Dictionary<string, Access> Table = new()
    {
        ["GET /api/v1/people/me"] = Access.Reader,
        ["GET /api/v1/people/sign-in"] = Access.Anyone,
        ["POST /api/v1/people/sign-in"] = Access.Anyone,
        ["POST /api/v1/people/demo-sign-in"] = Access.Anyone,
        ["POST /api/v1/people/first"] = Access.Anyone,
        ["POST /api/v1/people/sign-out"] = Access.Reader,
        ["GET /api/v1/people/me/account"] = Access.Reader,
        ["POST /api/v1/people/me/sessions/{sessionId}/end"] = Access.Reader,
        ["POST /api/v1/people/me/password"] = Access.Reader,
        ["POST /api/v1/people/me/two-step"] = Access.Reader,
        ["POST /api/v1/people/me/two-step/confirm"] = Access.Reader,
        ["POST /api/v1/people/me/two-step/off"] = Access.Reader,
        ["POST /api/v1/people/me/passkeys/offer"] = Access.Reader,
        ["POST /api/v1/people/me/passkeys"] = Access.Reader,
        ["POST /api/v1/people/me/passkeys/{passkeyId}/remove"] = Access.Reader,
        ["POST /api/v1/people/passkey/offer"] = Access.Anyone,
        ["POST /api/v1/people/passkey"] = Access.Anyone,
        ["POST /api/v1/people/link/look"] = Access.Anyone,
        ["POST /api/v1/people/link"] = Access.Anyone,
        ["GET /api/v1/people"] = Access.Lead,
        ["POST /api/v1/people"] = Access.Lead,
        ["POST /api/v1/people/{personId}/role"] = Access.Lead,
        ["POST /api/v1/people/{personId}/link"] = Access.Lead,
        ["POST /api/v1/people/{personId}/close"] = Access.Lead,
        ["POST /api/v1/people/{personId}/reopen"] = Access.Lead,
        ["POST /api/v1/people/{personId}/sign-out"] = Access.Lead,
        ["POST /api/v1/people/{personId}/drop-two-step"] = Access.Lead,
        ["GET /api/v1/rounds/today"] = Access.Worker,
        ["GET /api/v1/rounds/form"] = Access.Lead,
        ["POST /api/v1/rounds"] = Access.Lead,
        ["GET /api/v1/register"] = Access.Reader,
        ["POST /api/v1/register"] = Access.Worker,
        ["GET /api/v1/register/scan"] = Access.Reader,
        ["GET /api/v1/register/form"] = Access.Worker,
        ["GET /api/v1/register/same-model"] = Access.Worker,
        ["POST /api/v1/register/class"] = Access.Worker,
        ["GET /api/v1/register/evidence"] = Access.Worker,
        ["GET /api/v1/register/{itemId}"] = Access.Reader,
        ["POST /api/v1/register/{itemId}/alike"] = Access.Worker,
        ["PUT /api/v1/register/{itemId}/members"] = Access.Worker,
        ["POST /api/v1/register/{itemId}/facts"] = Access.Worker,
        ["GET /api/v1/bench/{itemId}"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/view"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/inspections"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/discard"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/hand-over"] = Access.Worker,
        ["POST /api/v1/bench/loose"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/tag"] = Access.Worker,
        ["POST /api/v1/bench/{itemId}/name"] = Access.Worker,
        ["GET /api/v1/bench/handed-over"] = Access.Worker,
        ["POST /api/v1/bench/handed-over/{id}/take"] = Access.Worker,
        ["POST /api/v1/bench/inspections/{inspectionId}/withdraw"] = Access.Worker,
        ["GET /api/v1/bench/discarded"] = Access.Lead,
        ["POST /api/v1/bench/discarded/{id}/seen"] = Access.Lead,
        ["GET /api/v1/bench/unsaved-failures"] = Access.Lead,
        ["POST /api/v1/bench/unsaved-failures/{id}/explain"] = Access.Lead,
        ["GET /api/v1/public/{token}"] = Access.Anyone,
        ["POST /api/v1/public/{token}/checks"] = Access.Anyone,
        ["POST /api/v1/public/{token}/checks/{checkId}/photo"] = Access.Anyone,
        ["GET /api/v1/register/{itemId}/link"] = Access.Worker,
        ["GET /api/v1/register/{itemId}/link/code"] = Access.Worker,
        ["POST /api/v1/register/{itemId}/link"] = Access.Lead,
        ["POST /api/v1/register/{itemId}/link/revoke"] = Access.Lead,
        ["GET /api/v1/register/{itemId}/photos"] = Access.Reader,
        ["POST /api/v1/register/{itemId}/photos"] = Access.Worker,
        ["GET /api/v1/photos/{photoId}"] = Access.Reader,
        ["GET /api/v1/user-checks"] = Access.Worker,
        ["GET /api/v1/user-checks/weeks"] = Access.Reader,
        ["GET /api/v1/user-checks/sites/{siteId}"] = Access.Reader,
        ["POST /api/v1/register/{itemId}/user-checks"] = Access.Reader,
        ["POST /api/v1/user-checks/{checkId}/seen"] = Access.Worker,
        ["GET /api/v1/rounds"] = Access.Worker,
        ["GET /api/v1/rounds/{roundId}"] = Access.Worker,
        ["POST /api/v1/rounds/{roundId}/items"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/take-out"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/leave-out"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/take-back"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/move"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/details"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/days"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/rooms"] = Access.Worker,
        ["POST /api/v1/rounds/{roundId}/state"] = Access.Worker,
        ["POST /api/v1/rounds/{roundId}/split"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/merge"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/duplicate"] = Access.Lead,
        ["GET /api/v1/people/competences"] = Access.Worker,
        ["POST /api/v1/people/{personId}/competences"] = Access.Lead,
        ["GET /api/v1/look-list"] = Access.Reader,
        ["POST /api/v1/look-list"] = Access.Lead,
        ["POST /api/v1/register/{itemId}/move"] = Access.Worker,
        ["GET /api/v1/kit"] = Access.Worker,
        ["GET /api/v1/kit/{kitId}"] = Access.Worker,
        ["POST /api/v1/kit/today"] = Access.Worker,
        ["POST /api/v1/kit"] = Access.Lead,
        ["POST /api/v1/kit/{kitId}"] = Access.Lead,
        ["POST /api/v1/kit/{kitId}/retire"] = Access.Lead,
        ["POST /api/v1/kit/{kitId}/look"] = Access.Worker,
        ["POST /api/v1/kit/{kitId}/check"] = Access.Worker,
        ["POST /api/v1/kit/{kitId}/null"] = Access.Worker,
        ["POST /api/v1/kit/flags/{flagId}/seen"] = Access.Lead,
        ["GET /api/v1/papers/quarantine/{itemId}"] = Access.Reader,
        ["GET /api/v1/papers/rounds/{roundId}"] = Access.Worker,
        ["GET /api/v1/papers/kept"] = Access.Reader,
        ["POST /api/v1/papers/kept"] = Access.Worker,
        ["GET /api/v1/papers/kept/{paperId}"] = Access.Reader,
        ["POST /api/v1/papers/kept/{paperId}/cancel"] = Access.Worker,
        ["GET /api/v1/papers/kept/{paperId}/file"] = Access.Reader,
        ["POST /api/v1/inspections/{inspectionId}/take-back"] = Access.Lead,
        ["GET /api/v1/papers/labels"] = Access.Worker,
        ["GET /api/v1/hire"] = Access.Reader,
        ["GET /api/v1/hire/fleets"] = Access.Reader,
        ["GET /api/v1/hire/items"] = Access.Reader,
        ["GET /api/v1/hire/scan"] = Access.Worker,
        ["GET /api/v1/hire/{itemId}"] = Access.Reader,
        ["POST /api/v1/hire/{itemId}/moves"] = Access.Worker,
        ["PUT /api/v1/hire/clients/{client}/school"] = Access.Lead,
        ["GET /api/v1/hire/codes/{code}"] = Access.Worker,
        ["GET /api/v1/papers/verdict-card"] = Access.Worker,
        ["GET /api/v1/papers/register"] = Access.Reader,
        ["POST /api/v1/papers/kept/register"] = Access.Reader,
        ["GET /api/v1/papers/items/{itemId}"] = Access.Reader,
        ["POST /api/v1/papers/labels/print"] = Access.Worker,
        ["GET /api/v1/papers/labels/expired"] = Access.Reader,
        ["GET /api/v1/evidence"] = Access.Worker,
        ["GET /api/v1/evidence/{kind}/{place}"] = Access.Worker,
        ["POST /api/v1/evidence/{kind}/{place}/decisions"] = Access.Lead,
        ["POST /api/v1/evidence/decisions/{decisionId}/undo"] = Access.Lead,
        ["GET /api/v1/rounds/{roundId}/review"] = Access.Worker,
        ["POST /api/v1/rounds/{roundId}/review/records/{inspectionId}"] = Access.Lead,
        ["POST /api/v1/rounds/{roundId}/review/signature"] = Access.Lead,
        ["GET /api/v1/schedule"] = Access.Reader,
        ["POST /api/v1/schedule/proposal"] = Access.Worker,
        ["POST /api/v1/schedule/rounds"] = Access.Lead,
        ["GET /api/v1/schedule/near"] = Access.Reader,
        ["POST /api/v1/schedule/near/{itemId}/forward"] = Access.Worker,
        ["GET /api/v1/schedule/hours"] = Access.Worker,
        ["PUT /api/v1/schedule/hours/{personId}"] = Access.Lead,
        ["PUT /api/v1/schedule/sites/{siteId}/travel"] = Access.Lead,
        ["GET /api/v1/calendars/{token}.ics"] = Access.Anyone,
        ["GET /api/v1/schedule/calendars"] = Access.Reader,
        ["POST /api/v1/schedule/calendars"] = Access.Reader,
        ["POST /api/v1/schedule/calendars/{linkId}/revoke"] = Access.Reader,
        ["GET /api/v1/quarantine"] = Access.Reader,
        ["GET /api/v1/quarantine/{itemId}"] = Access.Reader,
        ["POST /api/v1/quarantine/{itemId}/acts"] = Access.Worker,
        ["POST /api/v1/quarantine/recall"] = Access.Lead,
        ["POST /api/v1/user-checks/{checkId}/take-out"] = Access.Worker,
        ["GET /api/v1/procedures"] = Access.Worker,
        ["GET /api/v1/procedures/schema"] = Access.Reader,
        ["GET /api/v1/procedures/{id}"] = Access.Worker,
        ["GET /api/v1/procedures/{id}/file"] = Access.Worker,
        ["POST /api/v1/procedures"] = Access.Lead,
        ["POST /api/v1/procedures/words"] = Access.Worker,
        ["POST /api/v1/procedures/draft"] = Access.Worker,
        ["POST /api/v1/procedures/read"] = Access.Lead,
        ["POST /api/v1/procedures/try"] = Access.Worker,
        ["POST /api/v1/procedures/{id}/retire"] = Access.Lead,
        ["POST /api/v1/procedures/{id}/restore"] = Access.Lead,
        ["GET /api/v1/papers/inspections/{inspectionId}"] = Access.Reader,
        ["GET /api/v1/papers/labels/{inspectionId}"] = Access.Reader,
        ["POST /api/v1/assess"] = Access.Worker,
        ["POST /api/v1/plan"] = Access.Worker,
        ["POST /api/v1/interval"] = Access.Worker,
        ["POST /api/v1/diagnose"] = Access.Worker,
        ["POST /api/v1/class"] = Access.Worker,
        ["POST /api/v1/evidence"] = Access.Worker,
        ["POST /api/v1/cord"] = Access.Worker,
        ["POST /api/v1/installation"] = Access.Worker,
        ["POST /api/v1/bench"] = Access.Worker,
        ["GET /api/v1/standards"] = Access.Reader,
        ["GET /api/v1/standards/schema"] = Access.Reader,
        ["GET /api/v1/standards/{id}"] = Access.Reader,
        ["PUT /api/v1/standards/{id}/house/{rule}"] = Access.Lead,
        ["DELETE /api/v1/standards/{id}/house/{rule}"] = Access.Lead,
        ["GET /api/v1/signs"] = Access.Reader,
        ["GET /api/v1/trust/standing"] = Access.Worker,
        ["GET /api/v1/trust"] = Access.Lead,
        ["POST /api/v1/trust/verify"] = Access.Lead,
        ["GET /api/v1/trust/trail"] = Access.Lead,
        ["GET /api/v1/trust/books/{clientCode}"] = Access.Reader,
    };

    /// <summary>Methods of the open line to a bench.</summary>
    private static readonly Dictionary<string, Access> HubTable = new()
    {
        [nameof(BenchHub.Measure)] = Access.Worker,
        [nameof(BenchHub.Finish)] = Access.Worker,
    };

    /// <summary>What signs the asker out, or would not end, is asked last and by itself.</summary>
    private static readonly string[] Apart = ["POST /api/v1/people/sign-out", "POST /api/v1/people/demo-sign-in"];

    private async Task<string[]> Described()
    {
        using var client = await world.App.SignedIn();
        var paths = (await client.Get("/openapi/v1.json")).GetProperty("paths");
        return
        [
            .. paths
                .EnumerateObject()
                .SelectMany(path =>
                    path.Value.EnumerateObject()
                        .Where(it => it.Name is "get" or "post" or "put" or "delete" or "patch")
                        .Select(it => $"{it.Name.ToUpperInvariant()} {path.Name.TrimEnd('/')}")
                ),
        ];
    }

    [Fact]
    public async Task Every_endpoint_and_every_hub_method_stands_in_the_table()
    {
        var described = await Described();
        described.Except(Table.Keys).ShouldBeEmpty("endpoints that are in no line of the table");
        Table.Keys.Except(described).ShouldBeEmpty("lines for endpoints that are not there");
        typeof(BenchHub)
            .GetMethods(BindingFlags.Public | BindingFlags.Instance | BindingFlags.DeclaredOnly)
            .Select(it => it.Name)
            .ShouldBe(HubTable.Keys);
    }

    [Fact]
    public async Task Whoever_may_not_call_it_is_refused_before_anything_is_looked_at()
    {
        using var nobody = world.App.CreateClient();
        using var viewer = await world.App.SignedIn("wilf");
        using var technician = await world.App.SignedIn("ida");
        using var lead = await world.App.SignedIn("maud");
        foreach (var (endpoint, access) in Table.Where(it => !Apart.Contains(it.Key)))
        {
            (await Ask(nobody, endpoint)).ShouldBe(access == Access.Anyone ? null : HttpStatusCode.Unauthorized, $"nobody: {endpoint}");
            (await Ask(viewer, endpoint)).ShouldBe(
                access is Access.Worker or Access.Lead ? HttpStatusCode.Forbidden : null,
                $"viewer: {endpoint}"
            );
            (await Ask(technician, endpoint)).ShouldBe(access == Access.Lead ? HttpStatusCode.Forbidden : null, $"technician: {endpoint}");
            (await Ask(lead, endpoint)).ShouldBeNull($"lead: {endpoint}");
        }
    }

    /// <returns>401 or 403 of the access rules; null for every other answer, whatever is wrong with the request.</returns>
    private static async Task<HttpStatusCode?> Ask(HttpClient client, string endpoint)
    {
        var (method, path) = endpoint.Split(' ') is [var verb, var rest]
            ? (new HttpMethod(verb), rest)
            : throw new ArgumentException(endpoint);
        using var request = new HttpRequestMessage(method, new Uri(Hole().Replace(path, Guid.NewGuid().ToString()), UriKind.Relative));
        if (method != HttpMethod.Get)
            request.Content = new StringContent("{}", Encoding.UTF8, "application/json");
        using var answer = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, Cancel);
        // A refusal of what was sent has words; one of the access rules has not looked at it.
        var isOfTheRules = answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
        return isOfTheRules && !(await answer.Content.ReadAsStringAsync(Cancel)).Contains("detail", StringComparison.Ordinal)
            ? answer.StatusCode
            : null;
    }

    [GeneratedRegex("\\{[^}]+\\}")]
    private static partial Regex Hole();

    [Fact]
    public async Task A_viewer_reads_what_is_their_clients_and_nothing_else_by_whatever_way()
    {
        using var viewer = await world.App.SignedIn("wilf");
        var all = (await viewer.Get("/api/v1/register?pageSize=200")).GetProperty("rows").EnumerateArray().ToArray();
        all.Length.ShouldBeGreaterThan(20);
        all.ShouldAllBe(row => row.Text("clientCode") == "SVH");
        var page = await viewer.Get("/api/v1/register");
        page.GetProperty("clients").EnumerateArray().Select(it => it.Text("code")).ShouldBe(["SVH"]);
        (await viewer.Get("/api/v1/register?client=LMR")).GetProperty("total").GetInt32().ShouldBe(0);

        var (own, other) = await world.InDatabase(async db =>
            (
                await db.Inspections.Where(it => it.Item.Client.Code == "SVH" && it.IsTest).OrderBy(it => it.BookNumber).FirstAsync(Cancel),
                await db
                    .Inspections.Include(it => it.Item)
                    .Where(it => it.Item.Client.Code == "LMR" && it.IsTest)
                    .OrderBy(it => it.BookNumber)
                    .FirstAsync(Cancel)
            )
        );
        (await Status(viewer, $"/api/v1/register/{own.ItemId}")).ShouldBe(HttpStatusCode.OK);
        (await Status(viewer, $"/api/v1/register/{other.ItemId}")).ShouldBe(HttpStatusCode.NotFound);
        (await Status(viewer, $"/api/v1/papers/labels/{own.Id}")).ShouldBe(HttpStatusCode.OK);
        (await Status(viewer, $"/api/v1/papers/labels/{other.Id}")).ShouldBe(HttpStatusCode.NotFound);
        (await Status(viewer, $"/api/v1/papers/inspections/{own.Id}")).ShouldBe(HttpStatusCode.OK);
        (await Status(viewer, $"/api/v1/papers/inspections/{other.Id}")).ShouldBe(HttpStatusCode.NotFound);
        (await Status(viewer, "/api/v1/trust/books/SVH")).ShouldBe(HttpStatusCode.OK);
        (await Status(viewer, "/api/v1/trust/books/LMR")).ShouldBe(HttpStatusCode.NotFound);
        var scanned = await viewer.Get($"/api/v1/register/scan?tag={other.Item.Tag}");
        scanned.GetProperty("item").ValueKind.ShouldBe(JsonValueKind.Null);
        scanned.GetProperty("elsewhere").GetArrayLength().ShouldBe(0);
    }

    /// <summary>Nobody said whose eyes: nothing is seen, and no handler can forget it.</summary>
    [Fact]
    public async Task A_context_that_nobody_looks_with_sees_nothing()
    {
        var options = new DbContextOptionsBuilder<Store.OsierwandDb>();
        Store.OsierwandDb.Configure(options, world.Connection);
        await using var db = new Store.OsierwandDb(options.Options);
        (await db.Clients.CountAsync(Cancel)).ShouldBe(0);
        (await db.Items.CountAsync(Cancel)).ShouldBe(0);
        (await db.Inspections.CountAsync(Cancel)).ShouldBe(0);
        (await db.ItemChanges.CountAsync(Cancel)).ShouldBe(0);
        (await db.Rounds.CountAsync(Cancel)).ShouldBe(0);
        (await db.AuditEntries.CountAsync(Cancel)).ShouldBe(0);
        // Every kind of row that belongs to a client has its filter: a new one is thought about.
        var open = db
            .Model.GetEntityTypes()
            .Where(it => it.GetDeclaredQueryFilters().Count == 0)
            .Select(it => it.ClrType.Name)
            .Where(it => !it.StartsWith("Identity", StringComparison.Ordinal));
        open.ShouldBe(
            [
                "HouseChange",
                "LookChange",
                "PasswordLink",
                "Person",
                "PersonClient",
                "PersonCompetence",
                "ProcedureRow",
                "ProcedureVersion",
                "Session",
                "SignInAttempt",
            ],
            ignoreOrder: true
        );
    }

    [Fact]
    public async Task Work_in_a_closed_round_is_refused_to_technician_and_lead_alike()
    {
        var (item, round) = await world.InDatabase(async db =>
        {
            var closed = await db.Rounds.Include(it => it.Site).FirstAsync(it => it.ClosedOn != null, Cancel);
            return ((await db.Items.FirstAsync(it => it.SiteId == closed.SiteId, Cancel)).Id, closed.Id);
        });
        foreach (var who in new[] { "ida", "maud" })
        {
            using var client = await world.App.SignedIn(who);
            (await Status(client, $"/api/v1/bench/{item}?round={round}")).ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await client.Post($"/api/v1/bench/{item}/view", new { roundId = round, events = Array.Empty<object>() })).Status.ShouldBe(422);
            var save = new
            {
                id = Guid.NewGuid(),
                roundId = round,
                ruling = "x",
                state = "x",
                events = Array.Empty<object>(),
                end = "pass",
            };
            (await client.Post($"/api/v1/bench/{item}/inspections", save)).Body.Text("detail").ShouldContain("closed");
        }
    }

    [Theory]
    [InlineData(null, HttpStatusCode.Unauthorized)]
    [InlineData("wilf", HttpStatusCode.Forbidden)]
    public async Task The_line_to_a_bench_is_not_opened_for_others(string? who, HttpStatusCode refusal)
    {
        using var client = who is null ? world.App.CreateClient() : await world.App.SignedIn(who);
        using var answer = await client.PostAsync(new Uri("/hubs/bench/negotiate?negotiateVersion=1", UriKind.Relative), null, Cancel);
        answer.StatusCode.ShouldBe(refusal);
    }

    /// <summary>Another site's page could open a line with the cookie of whoever looks at it.</summary>
    [Fact]
    public async Task The_line_to_a_bench_is_not_opened_from_another_sites_page()
    {
        using var client = await world.App.SignedIn();
        using var request = new HttpRequestMessage(HttpMethod.Get, "/hubs/bench?id=none");
        request.Headers.Add("Origin", "http://elsewhere.example");
        using var answer = await client.SendAsync(request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    private static async Task<HttpStatusCode> Status(HttpClient client, string path)
    {
        using var answer = await client.GetAsync(new Uri(path, UriKind.Relative), Cancel);
        return answer.StatusCode;
    }
}
