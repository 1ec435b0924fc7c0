using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Xunit;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Measured first, named later: nothing is saved without a tag, and what was seen meets what the register says.</summary>
public class NamingTests
{
    private static OnTheBench Loose(Item item) =>
        new(OnTheBench.RulingFor(item) with { Item = OnTheBench.RulingFor(item).Item with { IsLoose = true, Tag = "no tag 1" } });

    private static ItemOnBench Seen(Item item, ClassEvidence evidence = ClassEvidence.EarthSymbolOrPinMetalReachable) =>
        OnTheBench.RulingFor(item).Item with
        {
            Evidence = evidence,
        };

    private static string InsulationOf(OnTheBench bench) =>
        bench.State.Sheet.Steps.First(step => step.Key.StartsWith("insulation", StringComparison.Ordinal)).Key;

    [Fact]
    public void A_loose_item_is_judged_and_saved_by_no_end_until_it_has_a_tag()
    {
        var bench = Loose(OnTheBench.Kettle).LookGood();
        bench.PassTheRest();
        var state = bench.State;
        Assert.Equal(Outcome.Pass, state.Outcome);
        Assert.Equal([EndKind.Discard], state.Ends.Where(end => end.IsOpen).Select(end => end.Kind));
        Assert.True(state.EndOf(EndKind.Pass).LacksTag);
        Assert.Equal(Naming.NoTagYet, state.EndOf(EndKind.Pass).Why);
        Assert.Equal(AheadKind.Name, Ahead.Of(state).Kind);
        Assert.True(bench.View.AsksForTag);
        // The same sheet under a tag can be saved.
        Assert.True(BenchState.Of(OnTheBench.RulingFor(OnTheBench.Kettle), bench.Events).EndOf(EndKind.Pass).IsOpen);
    }

    [Fact]
    public void A_failed_loose_item_waits_for_its_tag_and_cannot_be_saved_as_not_tested()
    {
        var bench = Loose(OnTheBench.Kettle).LookGood();
        bench.Type("earthContinuity", "5");
        var state = bench.State;
        Assert.True(state.HasFailed);
        Assert.Equal(Outcome.Fail, state.Outcome);
        Assert.True(state.EndOf(EndKind.Fail) is { IsOpen: false, LacksTag: true });
        Assert.True(state.EndOf(EndKind.NotTested) is { IsOpen: false, LacksTag: false });
    }

    [Fact]
    public void Before_anything_is_done_it_is_not_the_tag_that_a_pass_waits_for()
    {
        var state = Loose(OnTheBench.Kettle).State;
        Assert.False(state.EndOf(EndKind.Pass).LacksTag);
        Assert.Equal(AheadKind.Step, Ahead.Of(state).Kind);
        Assert.Null(BenchView(state).Now.Next);
    }

    private static BenchView BenchView(BenchState state) => new BenchSession(state.Ruling, []).View();

    [Theory]
    [InlineData(ItemKind.ExtensionLead, false)]
    [InlineData(ItemKind.PortableRcd, false)]
    [InlineData(ItemKind.Appliance, true)]
    public void A_tag_of_something_else_is_refused(ItemKind known, bool fits)
    {
        var other = new Item
        {
            Kind = known,
            Class = ProtectionClass.I,
            Rcd = known == ItemKind.PortableRcd ? new Amperes(0.03) : null,
        };
        Assert.Equal(fits, Naming.Refusal(Seen(OnTheBench.Kettle), Seen(other)) is null);
    }

    [Fact]
    public void What_nobody_said_of_a_loose_item_contradicts_nothing()
    {
        var bare = new Item { Kind = ItemKind.Appliance, Class = ProtectionClass.I };
        var basis = OnTheBench.RulingFor(bare).Basis;
        Assert.Null(Naming.Contradicted(Seen(bare), basis, Seen(OnTheBench.Kettle with { SurgeProtected = true }), basis));
    }

    [Fact]
    public void What_was_seen_and_the_register_has_otherwise_is_told_fact_by_fact()
    {
        var basis = OnTheBench.RulingFor(OnTheBench.Kettle).Basis;
        var seen = Seen(OnTheBench.Drill with { SurgeProtected = true }, ClassEvidence.SquareWithinSquare);
        var told = Naming.Contradicted(seen, basis, Seen(OnTheBench.Kettle), basis);
        Assert.Equal(
            new()
            {
                Evidence = ClassEvidence.SquareWithinSquare,
                RatedPowerW = 750,
                SurgeProtected = true,
            },
            told
        );
        Assert.Equal(
            [
                "Class: I in the register, II as seen",
                "Watts: 2200 in the register, 750 as seen",
                "Surge protected: no in the register, yes as seen",
            ],
            Naming.Told(told!, Seen(OnTheBench.Kettle), basis)
        );
        Assert.Equal(
            new()
            {
                Evidence = ClassEvidence.EarthSymbolOrPinMetalReachable,
                RatedPowerW = 2200,
                SurgeProtected = false,
            },
            Naming.AsTheRegisterHas(told!, Seen(OnTheBench.Kettle), basis)
        );
    }

    /// <summary>1.5 MΩ: too little for class II (2.0), enough for class I (1.0).</summary>
    [Theory]
    [InlineData(FactsFrom.Seen, true)]
    [InlineData(FactsFrom.Register, false)]
    public void A_failure_by_what_was_seen_goes_only_where_the_register_is_said_to_be_right(FactsFrom from, bool hasFailed)
    {
        var loose = Loose(OnTheBench.Drill).LookGood();
        loose.Type(InsulationOf(loose), "1.5M");
        Assert.True(loose.State.HasFailed);

        var known = OnTheBench.RulingFor(OnTheBench.Kettle with { Heating = false });
        var seen = loose.Ruling.Item with { Evidence = ClassEvidence.SquareWithinSquare };
        var contradicted = Naming.Contradicted(seen, known.Basis, known.Item, known.Basis)!;
        var sheet = Naming.Sheet(
            loose.Events,
            NamedAt(loose),
            contradicted,
            from == FactsFrom.Register ? Naming.AsTheRegisterHas(contradicted, known.Item, known.Basis) : null,
            (Guid.NewGuid(), Guid.NewGuid())
        );
        var state = BenchState.Of(known, sheet);
        Assert.Empty(state.Refused);
        Assert.Equal(hasFailed, state.HasFailed);
        Assert.Equal(from == FactsFrom.Seen ? ProtectionClass.II : ProtectionClass.I, state.Ruling.Item.Equipment.Class);
        // Either way it is not through with what was measured before: a class I item has an earth that nobody has measured.
        Assert.False(state.EndOf(EndKind.Pass).IsOpen);
        Assert.Contains(
            "Measured before it had its tag, as appliance, class II; then found to be T-1.",
            new BenchSession(known, sheet).View().Now.Advice
        );
    }

    [Fact]
    public void A_name_is_refused_while_the_item_has_none()
    {
        var bench = Loose(OnTheBench.Kettle);
        var refused = Assert.Single(BenchState.Of(bench.Ruling, [NamedAt(bench)]).Refused);
        Assert.Equal("It has no tag yet.", refused.Why);
    }

    [Fact]
    public void A_name_comes_back_from_its_text_as_it_was()
    {
        BenchEvent named = NamedAt(Loose(OnTheBench.Kettle));
        Assert.Equal([named], BenchJson.ReadEvents(BenchJson.Write([named])).Value);
    }

    private static Named NamedAt(OnTheBench bench) =>
        new()
        {
            Id = Guid.Parse("20000000-0000-0000-0000-000000000001"),
            At = bench.Start.AddMinutes(20),
            Loose = bench.Ruling.Item.Id,
            Tag = "T-1",
            SeenAs = Naming.SeenAs(bench.Ruling.Item),
            WasKnown = true,
        };

    /// <summary>Trips are taken at multiples of the rated current: those for 30 mA are five times and more of what a 10 mA device
    /// should bear.</summary>
    [Fact]
    public void A_good_trip_for_another_rating_counts_no_more_and_a_failed_one_stays()
    {
        var rcd = new Item
        {
            Kind = ItemKind.PortableRcd,
            Class = ProtectionClass.II,
            Rcd = new(0.03),
        };
        var good = OnTheBench.With(rcd).LookGood();
        good.PassTheRest();
        Assert.True(good.State.EndOf(EndKind.Pass).IsOpen);
        good.Change(new() { RcdMa = 10 });
        Assert.False(good.State.EndOf(EndKind.Pass).IsOpen);
        Assert.All(
            good.State.Readings.Where(it => it.StepKey.StartsWith("rcdTrip", StringComparison.Ordinal)),
            it => Assert.StartsWith("taken for 30 mA", it.Void)
        );

        var slow = OnTheBench.With(rcd).LookGood();
        var trip = slow.State.Sheet.Steps.First(step => step.Key.StartsWith("rcdTrip/1x", StringComparison.Ordinal)).Key;
        slow.Type(trip, "450");
        slow.Change(new() { RcdMa = 10 });
        Assert.True(slow.State.HasFailed);
    }
}
