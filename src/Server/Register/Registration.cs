using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Turns what was read off a plate into a register item, or says what cannot be right.</summary>
internal static class Registration
{
    public static Result<RegisterItem> Make(NewItem sent, Round round, DateOnly today)
    {
        var tag = Tags.Read(sent.Tag);
        if (tag.Fault is { } badTag)
            return badTag;
        if (string.IsNullOrWhiteSpace(sent.Name))
            return new Fault("name", "The name is missing.");
        if (string.IsNullOrWhiteSpace(sent.Room))
            return new Fault("room", "The room is missing.");
        var bare = new Item
        {
            Kind = sent.Kind,
            Class = ClassDecisions.From(sent.Evidence).Class,
            Use = sent.HardWired ? UseOf.Fixed : sent.Use,
            Cord = sent.HardWired ? new(Permanent: true) : null,
        };
        var blank = new ItemOnBench(
            Guid.CreateVersion7(),
            tag.Value,
            sent.Name,
            null,
            null,
            null,
            round.Site.Name,
            sent.Room,
            sent.Evidence,
            ItemState.InService,
            0,
            bare
        );
        var made = Facts.Apply(blank, Plate(sent));
        if (made.Fault is { } fault)
            return fault;
        if (sent.Kind == ItemKind.PortableRcd && sent.RcdMa is null)
            return new Fault("rcdMa", "A portable RCD needs its rating in milliampere.");
        // What a plate of three phases says lies between its lines; the site's voltage to neutral in its place would scale leakage wrongly.
        if (sent.More is { Phases: 3 } && sent.RatedVoltageV is null)
            return new Fault("ratedVoltageV", "Say what lies between its lines, as on the plate.");
        if (sent.HardWired && sent.Kind != ItemKind.Appliance)
            return new Fault("hardWired", "Only appliances are hard-wired.");
        var item = made.Value;
        if (!item.Equipment.IsPatientSideKnown)
            return new Fault("appliedParts", "Say which parts of it touch the patient, or that you looked and there are none.");
        return new RegisterItem
        {
            Id = item.Id,
            ClientId = round.Site.ClientId,
            SiteId = round.SiteId,
            Room = item.Room,
            Place = sent.Place,
            Tag = item.Tag,
            Name = item.Name,
            Maker = item.Maker,
            Model = item.Model,
            Serial = item.Serial,
            Evidence = sent.Evidence,
            Usage = sent.Usage,
            Moved = sent.Moved,
            Users = sent.Users,
            RegisteredOn = today,
            Equipment = item.Equipment,
        };
    }

    /// <summary>The same facts that are corrected later, by the same rules.</summary>
    private static FactChanges Plate(NewItem sent) =>
        new()
        {
            Name = sent.Name,
            Room = sent.Room,
            Maker = sent.Maker ?? "",
            Model = sent.Model ?? "",
            Serial = sent.Serial ?? "",
            Heating = sent.Heating,
            SurgeProtected = sent.SurgeProtected,
            AllInsulated = sent.AllInsulated,
            RatedVoltageV = sent.RatedVoltageV,
            RatedPowerW = sent.RatedPowerW,
            RatedCurrentA = sent.RatedCurrentA,
            PlugFuseA = sent.PlugFuseA,
            Plug = sent.Plug,
            Outlets = sent.Outlets,
            RcdMa = sent.RcdMa,
            FlexLengthM = sent.HardWired ? null : sent.FlexLengthM,
            FlexMm2 = sent.HardWired ? null : sent.FlexMm2,
            Phases = sent.More?.Phases,
            Detachable = sent.More is { Detachable: true } ? true : null,
            MainsSwitch = sent.More?.MainsSwitch,
            StartUpSeconds = sent.More?.StartUpSeconds,
            Access = sent.More?.Access,
            Care = sent.More?.Care,
            PartPlates = sent.More is { PartPlates.Count: > 0 } ? sent.More.PartPlates : null,
            AppliedParts = sent.More?.AppliedParts,
            EarthedParts = sent.More?.EarthedParts,
            UnearthedParts = sent.More?.UnearthedParts,
            Defibrillator = sent.More?.Defibrillator,
            Accessories = sent.More?.Accessories,
            MakerAsks = sent.More?.MakerAsks,
            Battery = sent.More?.Battery,
            Inlet = sent.More?.Inlet,
            MadeIn = sent.More?.MadeIn,
            LifeYears = sent.More?.LifeYears,
            NoAppliedParts = sent.More is { NoAppliedParts: true } ? true : null,
            LifeSupporting = sent.More is { LifeSupporting: true } ? true : null,
            EmergencyTransport = sent.More is { EmergencyTransport: true } ? true : null,
        };
}
