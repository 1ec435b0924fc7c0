using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Records;
using Osierwand.Core.Tests.Bench;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Medical systems in the register: members by tag, out of use, corrected, on record.</summary>
[Collection(RegisterHouse.Name)]
public sealed class SystemTests(World world)
{
    private static readonly Item Scope = new()
    {
        Kind = ItemKind.MedicalDevice,
        EarthedParts = ["stud"],
        AppliedParts = [new("endoscope", AppliedPartType.BF)],
    };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static JsonObject New(Guid round, string tag, string kind, params string[] members)
    {
        var made = JsonSerializer.SerializeToNode(Kettle.New(round, tag, name: kind))!.AsObject();
        (made["kind"], made["heating"]) = (kind, false);
        if (members.Length > 0)
            made["members"] = JsonSerializer.SerializeToNode(members);
        return made;
    }

    /// <summary>A device M-1, a screen S-1 and a trolley T-1 with both on its socket.</summary>
    private async Task<(Kettle Device, Kettle Screen, Kettle System)> WardAsync()
    {
        var lead = await world.App.SignedIn("maud");
        var device = await HubTests.Device(world, lead, Scope);
        var screen = await Registered(device, "S-1", "appliance");
        return (device, screen, await Registered(device, "T-1", "medicalSystem", "M-1", "S-1"));
    }

    private static async Task<Kettle> Registered(Kettle beside, string tag, string kind, params string[] members)
    {
        var (status, made) = await beside.Client.Post("/api/v1/register", New(beside.Round, tag, kind, members));
        status.ShouldBe(201, made.ToString());
        return new(beside.Client, made.GetProperty("itemId").GetGuid(), beside.Round, tag);
    }

    private static async Task<(int Status, JsonElement Body)> Set(Kettle system, params string[] tags)
    {
        var revision = (await system.Page()).GetProperty("revision").GetInt32();
        return await system.Client.Put($"/api/v1/register/{system.Item}/members", new { revision, tags });
    }

    [Fact]
    public async Task It_is_laid_on_the_bench_with_what_its_members_are_now()
    {
        var (device, _, system) = await WardAsync();
        var laid = (await system.Lay()).Item;
        laid.Equipment.Members.Select(it => it.Tag).ShouldBe(["M-1", "S-1"]);
        laid.Equipment.EarthedParts.Length.ShouldBe(2);
        // A part more at the member is a part more of the system, and its last sheet no more the one in force.
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == device.Item)
                .ExecuteUpdateAsync(
                    set =>
                        set.SetProperty(
                            it => it.Equipment,
                            Scope with
                            {
                                AppliedParts = [.. Scope.AppliedParts, new("probe", AppliedPartType.CF)],
                            }
                        ),
                    Cancel
                )
        );
        var now = (await system.Lay()).Item;
        now.Equipment.AppliedParts.Select(it => it.Name).ShouldBe(["Test kettle: endoscope", "Test kettle: probe"]);
        var page = await system.Page();
        page.GetProperty("members").EnumerateArray().Select(it => it.Text("tag")).ShouldBe(["M-1", "S-1"]);
        (await device.Page()).GetProperty("partOf").Text("tag").ShouldBe("T-1");
    }

    [Fact]
    public async Task Saved_its_record_has_the_members_and_the_register_still_knows_the_socket_apart()
    {
        var (_, _, system) = await WardAsync();
        var ruling = await system.Lay();
        var sheet = new OnTheBench(ruling) { Start = DateTimeOffset.UtcNow.AddMinutes(-10) };
        sheet.LookGood();
        if (sheet.State.Outlet is { InUse: null })
            sheet.CheckOutlet(isWorkbench: true);
        sheet.PassTheRest();
        var (status, body) = await system.Save(sheet.Events, ruling: ruling);
        status.ShouldBe(200, body.ToString());
        var (record, stored) = await world.InDatabase(async db =>
            (
                await db.Inspections.Where(it => it.ItemId == system.Item).Select(it => it.Record).SingleAsync(Cancel),
                await db.Items.Where(it => it.Id == system.Item).Select(it => it.Equipment).SingleAsync(Cancel)
            )
        );
        InspectionRecord.Read(record).Value.Item.Equipment.Members.Length.ShouldBe(2);
        MedicalSystem.Own(stored).EarthedParts.ShouldBeEmpty();
        stored.EarthedParts.Length.ShouldBe(2);
    }

    [Theory]
    [InlineData(ItemState.Quarantined, "quarantined")]
    [InlineData(ItemState.InRepair, "in repair")]
    [InlineData(ItemState.Scrapped, "scrapped")]
    public async Task With_a_member_out_of_use_it_is_not_passed_however_it_is_sent(ItemState state, string word)
    {
        var (device, _, system) = await WardAsync();
        var before = await system.Lay();
        var sheet = new OnTheBench(before) { Start = DateTimeOffset.UtcNow.AddMinutes(-10) };
        sheet.LookGood();
        if (sheet.State.Outlet is { InUse: null })
            sheet.CheckOutlet(isWorkbench: true);
        sheet.PassTheRest();
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == device.Item).ExecuteUpdateAsync(set => set.SetProperty(it => it.State, state), Cancel)
        );
        // By the ruling that the page still has, and by the one in force.
        (await system.Save(sheet.Events, ruling: before)).Status.ShouldBe(409);
        var (status, body) = await system.Save(sheet.Events);
        status.ShouldBe(422);
        body.Text("detail").ShouldContain($"M-1 is {word}: the system is looked at and not tested");
    }

    [Fact]
    public async Task Other_members_make_it_due_and_begin_its_references_anew()
    {
        var (device, screen, system) = await WardAsync();
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == system.Item)
                .ExecuteUpdateAsync(
                    set => set.SetProperty(it => it.Due, new DateOnly(2030, 1, 1)).SetProperty(it => it.ReferenceValues, (string?)null),
                    Cancel
                )
        );
        (await Set(system, "m-1")).Status.ShouldBe(204);
        var page = await system.Page();
        page.GetProperty("daysOver").GetInt32().ShouldBe(0);
        page.GetProperty("because")[0].GetString()!.ShouldContain("Its members changed");
        page.GetProperty("changes")[0].GetProperty("lines")[0].GetString()!.ShouldBe("Taken out: appliance S-1");
        (await screen.Page()).GetProperty("partOf").ValueKind.ShouldBe(JsonValueKind.Null);
        (await system.Lay()).References.ShouldBeEmpty();
        // The same again changes nothing, whatever the case.
        (await Set(system, "M-1")).Status.ShouldBe(204);
        (await system.Page()).GetProperty("changes").GetArrayLength().ShouldBe(1);
        (await device.Page()).GetProperty("partOf").Text("tag").ShouldBe("T-1");
    }

    [Fact]
    public async Task What_cannot_be_a_member_is_refused_with_its_reason_and_nothing_changes()
    {
        var (device, _, system) = await WardAsync();
        await Registered(device, "T-9", "extensionLead");
        var other = await Registered(device, "T-2", "medicalSystem");
        string Told((int Status, JsonElement Body) answer)
        {
            answer.Status.ShouldBe(422, answer.Body.ToString());
            return answer.Body.ToString();
        }
        Told(await Set(system, "M-1", "T-9")).ShouldContain("members are devices and appliances");
        Told(await Set(system, "T-2")).ShouldContain("members are devices and appliances");
        Told(await Set(system, "Q-9")).ShouldContain("no item Q-9");
        Told(await Set(system, "M-1", "m-1")).ShouldContain("stands twice");
        Told(await Set(other, "M-1")).ShouldContain("belongs to T-1");
        Told(await Set(device, "S-1")).ShouldContain("no medical system");
        Told(await Set(system, [.. Enumerable.Range(0, 21).Select(n => $"X-{n}")])).ShouldContain("at most 20");
        var stale = await system.Client.Put($"/api/v1/register/{system.Item}/members", new { revision = 99, tags = new[] { "M-1" } });
        stale.Status.ShouldBe(409);
        (await system.Page()).GetProperty("members").GetArrayLength().ShouldBe(2);
        (await other.Lay()).Item.NotWhole!.ShouldContain("name its members");
        var (status, body) = await device.Client.Post("/api/v1/register", New(device.Round, "K-7", "appliance", "S-1"));
        status.ShouldBe(422);
        body.ToString().ShouldContain("Only a medical system has members");
    }
}
