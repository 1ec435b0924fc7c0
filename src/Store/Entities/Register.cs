using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Hire;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;

namespace Osierwand.Store.Entities;

/// <summary>Which of the two labelling schools a client follows.</summary>
public enum LabelSchool
{
    /// <summary>Tag, test date, initials and verdict; the register knows the next date.</summary>
    WithoutNextDate,

    /// <summary>The next date is printed too.</summary>
    WithNextDate,
}

/// <summary>A duty holder: owns equipment, receives the papers, makes the choices where schools differ.</summary>
public sealed class Client
{
    public Guid Id { get; set; }
    public required string Code { get; set; }
    public required string Name { get; set; }
    public LabelSchool LabelSchool { get; set; }

    /// <summary>A fixed interval in months that the client or its insurer asks for; it wins where it is shorter.</summary>
    public double? CapMonths { get; set; }
    public ClassIIPolicy ClassII { get; set; }
    public NewItemPolicy NewItem { get; set; }
    public LeakagePolicy Leakage { get; set; }
    public LeakageMethod MedicalMethod { get; set; }
    public MedicalInsulationPolicy MedicalInsulation { get; set; }
    public HardWiredPolicy HardWired { get; set; }
    public FixingsPolicy Fixings { get; set; }
    public DecisionRule DecisionRule { get; set; }

    /// <summary>What its hire fleet asks of an item before each issue.</summary>
    public HireTests HireTests { get; set; }

    public Policy Policy =>
        new()
        {
            ClassII = ClassII,
            NewItem = NewItem,
            Leakage = Leakage,
            MedicalMethod = MedicalMethod,
            MedicalInsulation = MedicalInsulation,
            HardWired = HardWired,
            Fixings = Fixings,
        };
}

public sealed class Site
{
    public Guid Id { get; set; }
    public Guid ClientId { get; set; }
    public Client Client { get; set; } = null!;
    public required string Name { get; set; }

    /// <summary>Dates are local to the site.</summary>
    public string TimeZone { get; set; } = "Europe/London";

    /// <summary>There and back, off the day of whoever visits it.</summary>
    public int TravelMinutes { get; set; } = 30;

    /// <summary>Nominal mains voltage, to neutral; null takes the standard's.</summary>
    public double? NominalV { get; set; }

    /// <summary>Mains frequency; 0 is direct current, null takes the standard's.</summary>
    public double? MainsHz { get; set; }

    public DateOnly DayOf(DateTimeOffset at) => DayOf(TimeZone, at);

    public static DateOnly DayOf(string timeZone, DateTimeOffset at) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, ZoneOf(timeZone)).DateTime);

    /// <summary>The first moment of a day there; where summer time skips midnight, the first that exists.</summary>
    public DateTimeOffset StartOf(DateOnly day)
    {
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        while (Zone.IsInvalidTime(midnight))
            midnight = midnight.AddMinutes(30);
        return new DateTimeOffset(midnight, Zone.GetUtcOffset(midnight)).ToUniversalTime();
    }

    public TimeZoneInfo Zone => ZoneOf(TimeZone);

    private static TimeZoneInfo ZoneOf(string name) => TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone) ? zone : TimeZoneInfo.Utc;
}

/// <summary>One visit to one site, with the rules chosen for it.</summary>
public sealed class Round
{
    public Guid Id { get; set; }
    public Guid SiteId { get; set; }
    public Site Site { get; set; } = null!;
    public required string Name { get; set; }

    /// <summary>Pack for the appliances of this round; never inherited from another round.</summary>
    public required string StandardId { get; set; }

    /// <summary>Pack for its medical devices; null where there are none.</summary>
    public string? MedicalStandardId { get; set; }
    public DateOnly StartsOn { get; set; }
    public DateOnly EndsOn { get; set; }
    public DateOnly? ClosedOn { get; set; }
    public RoundState State { get; set; } = RoundState.Open;

    /// <summary>Only the planned items belong to it; otherwise everything at its site that is due.</summary>
    public bool IsPlanned { get; set; }

    /// <summary>What was agreed with the client, in words; it stands on every paper.</summary>
    public string ScopeWords { get; set; } = "";

    /// <summary>The client's choices where this round differs from them, as JSON of <see cref="Core.Planning.Policy"/>; null where it does
    /// not.</summary>
    public string? OwnPolicy { get; set; }

    /// <summary>Why it differs.</summary>
    public string? PolicyReason { get; set; }

    /// <summary>Rooms in the order they are walked; those that are not named follow by name.</summary>
    public string[] RoomOrder { get; set; } = [];

    /// <returns>Null for a medical device on a round without a medical standard: it is judged by none, never by the appliances'.</returns>
    public string? PackIdFor(Item item) => item.IsMedical ? MedicalStandardId : StandardId;
}

/// <summary>An item that a round was planned with, or that was left out of it.</summary>
public sealed class RoundItem
{
    public const int LongestWords = 300;

    public Guid RoundId { get; set; }
    public Guid ItemId { get; set; }
    public RegisterItem Item { get; set; } = null!;

    /// <summary>Why it is left out; null where it belongs to the round.</summary>
    public string? ExcludedWhy { get; set; }

    /// <summary>Planned for its formal visual alone: its test is not due yet.</summary>
    public bool IsLook { get; set; }

    /// <summary>Who tests what is left out, so that it falls between no two chairs.</summary>
    public string? TestedBy { get; set; }
}

/// <summary>Bench time of one person on one day of a round.</summary>
public sealed class RoundDayRow
{
    public Guid RoundId { get; set; }
    public DateOnly Day { get; set; }
    public Guid PersonId { get; set; }
    public int Minutes { get; set; }
}

/// <summary>One thing in the register.</summary>
public sealed class RegisterItem
{
    public const int LongestTag = 40;
    public const int LongestLock = 700;
    public const int LongestWhy = 1000;

    public Guid Id { get; set; }
    public Guid ClientId { get; set; }
    public Client Client { get; set; } = null!;
    public Guid SiteId { get; set; }
    public Site Site { get; set; } = null!;
    public required string Room { get; set; }
    public Place Place { get; set; }

    /// <summary>Unique within its client, compared without regard to case.</summary>
    public required string Tag { get; set; }
    public required string Name { get; set; }
    public string? Maker { get; set; }
    public string? Model { get; set; }
    public string? Serial { get; set; }

    /// <summary>What the rules know of it, stored as JSON in the contract's words.</summary>
    public required Item Equipment { get; set; }
    public ClassEvidence Evidence { get; set; }
    public Usage Usage { get; set; }
    public Moved Moved { get; set; }
    public Users Users { get; set; }
    public ItemState State { get; set; }
    public DateOnly RegisteredOn { get; set; }

    /// <summary>Null until it was first inspected: then it is due at once.</summary>
    public DateOnly? Due { get; set; }
    public DateOnly? VisualDue { get; set; }
    public double? IntervalMonths { get; set; }
    public string[] Because { get; set; } = [];
    public Outcome? LastOutcome { get; set; }
    public DateOnly? LastTestedOn { get; set; }

    /// <summary>Of the last look, tested or not.</summary>
    public DateOnly? LastLookedOn { get; set; }

    /// <summary>Of the last look that one of its users told of, whatever they found; a day of its site.</summary>
    public DateOnly? LastUserCheckOn { get; set; }

    /// <summary>The readings that later ones are held against (<see cref="References"/>), as JSON in the contract's words; null where they
    /// must be gathered from the records.</summary>
    public string? ReferenceValues { get; set; }

    /// <summary>When the first of its values would reach its limit; null where none is on its way to it.</summary>
    public DateOnly? CrossesOn { get; set; }

    /// <summary>Which value that is, with its readings, as JSON of <see cref="Core.Bench.Crossing"/>.</summary>
    public string? Crossing { get; set; }

    /// <summary>The earlier of its two dates, said by the database; before all days where it was never tested, and is due at
    /// once.</summary>
    public DateOnly FallsOn { get; private set; }

    /// <summary>Scrapped or lost, said by the database from the state: such items stand at the end of what is due.</summary>
    public bool IsGone { get; private set; }

    /// <summary>Word of its kind, made by the database from what is known of it.</summary>
    public string KindWord { get; private set; } = "";

    /// <summary>Word of its use, made by the database likewise.</summary>
    public string UseWord { get; private set; } = "";

    /// <summary>All that it is searched by, made by the database.</summary>
    public string Words { get; private set; } = "";

    /// <summary>Somebody's lock is on its supply: whose, since when, and who has the key. Null where none was left.</summary>
    public string? LockLeft { get; set; }

    /// <summary>Rises with every saved inspection; a bench that worked on an older one is told so.</summary>
    public int Revision { get; set; }

    /// <summary>What took it out of use: the failed inspection, the user's report or the recall; null where it is in service. The next four
    /// belong to it.</summary>
    public Guid? HeldCause { get; set; }
    public HeldBy? HeldBy { get; set; }

    /// <summary>What is wrong with it.</summary>
    public string? HeldWhy { get; set; }
    public DateTimeOffset? HeldSince { get; set; }

    /// <summary>Who found it, or said so.</summary>
    public string? HeldFrom { get; set; }

    /// <summary>How far it is, by the acts since; null where it is in service.</summary>
    public Stage? Stage { get; set; }

    /// <summary>The medical system whose multiple socket it hangs on; null where it stands alone.</summary>
    public Guid? PartOf { get; set; }

    /// <summary>When it was laid on the bench without a tag, to be named later; null where it was registered first.</summary>
    public DateTimeOffset? LooseSince { get; set; }

    /// <summary>It has no tag yet, or turned out to be <see cref="NamedAs"/>: it stands in no register, and no query sees it that does not
    /// ask for it (<see cref="OsierwandDb.WithLoose"/>).</summary>
    public bool IsLoose { get; set; }

    /// <summary>The registered item that it turned out to be.</summary>
    public Guid? NamedAs { get; set; }
}
