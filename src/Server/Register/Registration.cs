using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Turns what was read off a plate into a register item, or says what cannot be right.</summary>
internal static class Registration
{
    private const int LongestName = 120;

    public static Result<RegisterItem> Make(NewItem sent, Round round, DateOnly today)
    {
        var tag = Tags.Read(sent.Tag);
        if (tag.Fault is { } badTag) return badTag;
        foreach (var (path, text, must) in new[] { ("name", sent.Name, true), ("room", sent.Room, true), ("maker", sent.Maker, false), ("model", sent.Model, false), ("serial", sent.Serial, false) })
        {
            if (must && string.IsNullOrWhiteSpace(text)) return new Fault(path, $"The {path} is missing.");
            if (text?.Length > LongestName || text?.Any(char.IsControl) == true) return new Fault(path, $"The {path} is too long or holds characters that cannot be printed.");
        }
        foreach (var (path, value, most, what) in new[]
        {
            ("ratedVoltageV", sent.RatedVoltageV, 1000.0, "Volts"), ("ratedPowerW", sent.RatedPowerW, 100_000, "Watts"), ("ratedCurrentA", sent.RatedCurrentA, 400, "Amperes"),
            ("flexLengthM", sent.FlexLengthM, 500, "The flex's length"), ("flexMm2", sent.FlexMm2, 50, "The flex's size"), ("plugFuseA", sent.PlugFuseA, 63, "The fuse"), ("rcdMa", sent.RcdMa, 1000, "The RCD's rating"),
        })
        {
            if (value is { } number && !(number > 0 && number <= most)) return new Fault(path, $"{what} must be above 0 and at most {most:0}.");
        }
        if (sent.Outlets is < 1 or > 50) return new Fault("outlets", "A lead has 1 to 50 outlets.");
        if (sent.Kind == ItemKind.PortableRcd && sent.RcdMa is null) return new Fault("rcdMa", "A portable RCD needs its rating in milliampere.");
        if (sent.HardWired && sent.Kind != ItemKind.Appliance) return new Fault("hardWired", "Only appliances are hard-wired.");
        return new RegisterItem
        {
            Id = Guid.CreateVersion7(),
            ClientId = round.Site.ClientId,
            SiteId = round.SiteId,
            Room = sent.Room.Trim(),
            Place = sent.Place,
            Tag = tag.Value,
            Name = sent.Name.Trim(),
            Maker = Blank(sent.Maker),
            Model = Blank(sent.Model),
            Serial = Blank(sent.Serial),
            Evidence = sent.Evidence,
            Usage = sent.Usage,
            Moved = sent.Moved,
            Users = sent.Users,
            RegisteredOn = today,
            Equipment = Equipment(sent),
        };
    }

    private static Item Equipment(NewItem sent) => new()
    {
        Kind = sent.Kind,
        Class = ClassDecisions.From(sent.Evidence).Class,
        Use = sent.HardWired ? UseOf.Fixed : sent.Use,
        Heating = sent.Heating,
        SurgeProtected = sent.SurgeProtected,
        AllInsulated = sent.AllInsulated,
        RatedVoltage = sent.RatedVoltageV is { } volts ? new Volts(volts) : null,
        RatedPower = sent.RatedPowerW is { } watts ? new Watts(watts) : null,
        RatedCurrent = sent.RatedCurrentA is { } amperes ? new Amperes(amperes) : null,
        PlugFuse = sent.PlugFuseA is { } fuse ? new Amperes(fuse) : null,
        Outlets = sent.Outlets,
        Rcd = sent.RcdMa is { } rcd ? new Amperes(rcd / 1000) : null,
        Cord = sent is { FlexLengthM: null, FlexMm2: null, HardWired: false } ? null
            : new(sent.FlexLengthM is { } length ? new Metres(length) : null, sent.FlexMm2 is { } size ? new SquareMillimetres(size) : null, Permanent: sent.HardWired),
    };

    private static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
