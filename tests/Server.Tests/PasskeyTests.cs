using System.Net;
using System.Text.Json;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What a passkey opens, and what it does not.</summary>
[Collection(PeopleHouse.Name)]
public class PasskeyTests(World world)
{
    /// <summary>As every browser says with what a page sends.</summary>
    private static HttpClient Page(HttpClient client)
    {
        client.DefaultRequestHeaders.Add("Origin", "http://localhost");
        return client;
    }

    private static async Task Add(HttpClient client, Device device, string name = "blue tablet")
    {
        Page(client);
        var offer = await client.Post("/api/v1/people/me/passkeys/offer", new { password = SessionTests.Good });
        offer.Status.ShouldBe(200);
        (
            await client.Post(
                "/api/v1/people/me/passkeys",
                new
                {
                    state = offer.Body.Text("state"),
                    name,
                    credential = device.Make(offer.Body.GetProperty("options")),
                }
            )
        ).Status.ShouldBe(204);
    }

    private async Task<(int Status, JsonElement Body, HttpClient Client)> Enter(Device device)
    {
        var client = Page(world.App.CreateClient());
        var offer = await client.Post("/api/v1/people/passkey/offer", new { });
        offer.Body.GetProperty("options").GetProperty("userVerification").GetString().ShouldBe("required");
        var answer = await client.Post(
            "/api/v1/people/passkey",
            new { state = offer.Body.Text("state"), credential = device.Show(offer.Body.GetProperty("options")) }
        );
        return (answer.Status, answer.Body, client);
    }

    [Fact]
    public async Task A_passkey_opens_its_owners_account_and_no_more_once_it_is_removed()
    {
        var (_, userName, client) = await SessionTests.Newcomer(world.App);
        using var device = new Device();
        await Add(client, device);
        var entered = await Enter(device);
        entered.Status.ShouldBe(200);
        (await entered.Client.Get("/api/v1/people/me")).Text("userName").ShouldBe(userName);
        var account = await entered.Client.Get("/api/v1/people/me/account");
        var card = account.GetProperty("passkeys").EnumerateArray().ShouldHaveSingleItem();
        card.Text("name").ShouldBe("blue tablet");
        card.Text("id").ShouldBe(device.Id);
        (await Enter(device)).Status.ShouldBe(200, "as often as they like");
        (await client.Post($"/api/v1/people/me/passkeys/{device.Id}/remove", new { })).Status.ShouldBe(204);
        (await client.Post($"/api/v1/people/me/passkeys/{device.Id}/remove", new { })).Status.ShouldBe(404);
        (await client.Post("/api/v1/people/me/passkeys/%3F%3F/remove", new { })).Status.ShouldBe(404);
        var refused = await Enter(device);
        refused.Status.ShouldBe(401);
        refused.Body.Text("detail").ShouldContain("opens no account here");
        using var lead = await world.App.SignedIn("maud");
        var told = (await lead.Get("/api/v1/trust/trail?search=passkey")).GetProperty("rows").EnumerateArray().ToArray();
        told.ShouldContain(it => it.Text("what") == "passkey added");
        told.ShouldContain(it => it.Text("what") == "passkey removed");
    }

    [Theory]
    [InlineData("link")]
    [InlineData("close")]
    [InlineData("drop-two-step")]
    public async Task What_a_lead_takes_away_takes_the_passkeys_with_it(string deed)
    {
        var (id, _, client) = await SessionTests.Newcomer(world.App);
        using var device = new Device();
        await Add(client, device);
        using var lead = await world.App.SignedIn("maud");
        (await lead.Post($"/api/v1/people/{id}/{deed}", new { })).Status.ShouldBeOneOf(200, 204);
        (await Enter(device)).Status.ShouldBe(401);
    }

    [Fact]
    public async Task Without_the_password_in_another_session_or_without_a_finger_none_is_added()
    {
        var (_, _, client) = await SessionTests.Newcomer(world.App);
        var (_, _, other) = await SessionTests.Newcomer(world.App);
        Page(client);
        Page(other);
        (await client.Post("/api/v1/people/me/passkeys/offer", new { password = "not the password" })).Status.ShouldBe(422);
        using var device = new Device();
        var offer = (await client.Post("/api/v1/people/me/passkeys/offer", new { password = SessionTests.Good })).Body;
        async Task<int> Try(HttpClient by, string state, string name, object credential) =>
            (
                await by.Post(
                    "/api/v1/people/me/passkeys",
                    new
                    {
                        state,
                        name,
                        credential,
                    }
                )
            ).Status;
        var (state, options) = (offer.Text("state"), offer.GetProperty("options"));
        (await Try(other, state, "theirs", device.Make(options))).ShouldBe(422, "offered to somebody else");
        (await Try(client, "forged", "forged", device.Make(options))).ShouldBe(422);
        (await Try(client, state, " ", device.Make(options))).ShouldBe(422);
        (await Try(client, state, "no credential", new { })).ShouldBe(422);
        (await Try(client, state, "no credential", "x")).ShouldBe(422);
        device.Verifies = false;
        (await Try(client, state, "no finger", device.Make(options))).ShouldBe(422);
        device.Verifies = true;
        device.Origin = "http://elsewhere.example";
        (await Try(client, state, "another page", device.Make(options))).ShouldBe(422);
        device.Origin = "http://localhost";
        (await Try(client, state, "mine", device.Make(options))).ShouldBe(204);
        (await Try(client, state, "twice", device.Make(options))).ShouldBe(422, "the device keeps it already");

        device.Verifies = false;
        (await Enter(device)).Status.ShouldBe(401);
        device.Verifies = true;
        device.Origin = "http://elsewhere.example";
        (await Enter(device)).Status.ShouldBe(401);
        device.Origin = "http://localhost";
        (await Enter(device)).Status.ShouldBe(200);
        using var stranger = new Device();
        stranger.Make(options);
        (await Enter(stranger)).Status.ShouldBe(401);
    }
}
