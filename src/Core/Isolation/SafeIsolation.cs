using System.Collections.Immutable;
using System.Globalization;

namespace Osierwand.Core.Isolation;

/// <summary>Which side of the point of work is tested for dead.</summary>
public enum Side
{
    Supply,
    Load,
}

/// <summary>What somebody would prove dead with. Only the first is ever accepted for it.</summary>
public enum IndicatorKind
{
    TwoPole,
    Multimeter,
    ProximityDetector,
}

/// <summary>What an indicator is proved on.</summary>
public enum ProvingSource
{
    ProvingUnit,

    /// <summary>Of like voltage, and only where no unit is to be had: with its reason.</summary>
    KnownLiveSource,
}

/// <param name="Volts">0 where nothing was indicated.</param>
public sealed record DeadReading(Side Side, string Pair, double Volts);

/// <summary>Something done, when, in words: what the record keeps.</summary>
public sealed record IsolationLine(DateTimeOffset At, string Text);

/// <summary>
/// Safe isolation of hard-wired equipment, and its restoration: how far it has come, and what may come next. Immutable; each deed gives the
/// next state, or why it does not count. Whatever shakes the proof of dead takes everything back that leant on it.
/// </summary>
public sealed record SafeIsolation
{
    public const string Identify = "isolation/identify";
    public const string Off = "isolation/off";
    public const string Lock = "isolation/lock";
    public const string Open = "isolation/open";
    public const string Prove = "isolation/prove";
    public const string DeadAtSupply = "isolation/dead/supply";
    public const string DeadAtLoad = "isolation/dead/load";
    public const string ProveAgain = "isolation/proveAgain";
    public const string Disconnect = "isolation/disconnect";
    public const string Reconnect = "restore/reconnect";
    public const string Unlock = "restore/unlock";
    public const string Energise = "restore/energise";

    /// <summary>In this order, and in no other.</summary>
    public static readonly ImmutableArray<string> Order =
    [
        Identify,
        Off,
        Lock,
        Open,
        Prove,
        DeadAtSupply,
        DeadAtLoad,
        ProveAgain,
        Disconnect,
        Reconnect,
        Unlock,
        Energise,
    ];

    /// <summary>A short name of each, for screens and refusals.</summary>
    public static string NameOf(string step) =>
        step switch
        {
            Identify => "Circuit, point of isolation, permission",
            Off => "Switched off, load seen to go off",
            Lock => "Locked and tagged",
            Open => "Cover open",
            Prove => "Indicator proved",
            DeadAtSupply => "Dead at the supply side",
            DeadAtLoad => "Dead at the load side",
            ProveAgain => "Indicator proved again",
            Disconnect => "Line and neutral disconnected",
            Reconnect => "Reconnected",
            Unlock => "Lock and tag off",
            Energise => "Supply restored",
            _ => throw new ArgumentOutOfRangeException(nameof(step), step, "No step of isolation."),
        };

    private static readonly ImmutableArray<string> OfOnePhase = ["N-E", "L-N", "L-E"];
    private static readonly ImmutableArray<string> OfThreePhases =
    [
        "N-E",
        "L1-N",
        "L2-N",
        "L3-N",
        "L1-E",
        "L2-E",
        "L3-E",
        "L1-L2",
        "L2-L3",
        "L1-L3",
    ];

    /// <summary>Every pair of conductors that is tested for dead, on either side: three, or all ten of three phases.</summary>
    public static ImmutableArray<string> PairsOf(int phases) => phases == 3 ? OfThreePhases : OfOnePhase;

    public ImmutableArray<string> Pairs { get; private init; }

    /// <summary>What stands, as a beginning of <see cref="Order"/>, but that the two sides are tested in either order.</summary>
    public ImmutableHashSet<string> Done { get; private init; } = [];
    public ImmutableArray<DeadReading> Dead { get; private init; } = [];

    /// <summary>The indicator that was proved; null before.</summary>
    public string? Indicator { get; private init; }

    /// <summary>A lock of the technician's is on, and nobody said how it is left.</summary>
    public bool IsLocked { get; private init; }

    /// <summary>Whose lock stays on, and who has the key, where it was left so.</summary>
    public string? LockStays { get; private init; }

    /// <summary>Why it is less far than it was; null while nothing was taken back.</summary>
    public string? Setback { get; private init; }
    public ImmutableArray<IsolationLine> Story { get; private init; } = [];

    public static SafeIsolation Of(int phases) => new() { Pairs = PairsOf(phases) };

    /// <summary>Dead by two proofs around the readings, disconnected, and not put back since.</summary>
    public bool IsIsolated => Done.Contains(Disconnect) && !Done.Contains(Reconnect);

    /// <summary>Whether it counts as live, in a sentence.</summary>
    public string Says =>
        IsIsolated ? "Proved dead, line and neutral disconnected."
        : Done.Contains(Energise) ? "Connected again and energised."
        : Done.Contains(Reconnect) ? "Connected again: it counts as live."
        : "It counts as live until it is proved dead.";

    /// <summary>Whether a lock is on, whoever put it there; null while nothing was done.</summary>
    public string? SaysOfLock =>
        Story.IsEmpty ? null
        : IsLocked ? "A lock is on."
        : LockStays is { } words ? $"A lock stays on: {words}"
        : "No lock is on.";

    /// <param name="words">With the first step: which circuit, which point, who permitted it, what else goes dark.</param>
    public Result<SafeIsolation> Confirm(string step, string? words, DateTimeOffset at)
    {
        if (step is Prove or ProveAgain or DeadAtSupply or DeadAtLoad)
            return new Fault("step", "This is not confirmed but shown: by the indicator.");
        if (Done.Contains(step))
            return new Fault("step", "It is done. To isolate again, begin from the first step with a reason.");
        if (Missing(step) is { } first)
            return new Fault("step", $"First: {NameOf(first)}.");
        if (step == Identify && string.IsNullOrWhiteSpace(words))
            return new Fault("words", "Say which circuit and point, who gave permission, and what else goes dark.");
        return this with
        {
            Done = Done.Add(step),
            IsLocked = step == Lock || (IsLocked && step != Unlock),
            LockStays = step == Lock ? null : LockStays,
            Setback = step == Disconnect ? null : Setback,
            Story = Story.Add(new(at, words is { Length: > 0 } ? $"{NameOf(step)}: {words.Trim()}" : NameOf(step))),
        };
    }

    /// <returns>Why dead is not proved with such a thing; null where it is.</returns>
    public static string? Refusal(IndicatorKind kind) =>
        kind switch
        {
            IndicatorKind.TwoPole => null,
            IndicatorKind.Multimeter => "A multimeter is never accepted for proving dead: take a two-pole voltage indicator.",
            _ => "A detector may find what is live and never proves dead: take a two-pole voltage indicator.",
        };

    /// <summary>The indicator on its proving unit: before the readings, and again after them.</summary>
    /// <param name="indicator">Its name or tag.</param>
    /// <param name="reason">Why no proving unit was to be had.</param>
    /// <param name="works">Every indication that it has was seen.</param>
    public Result<SafeIsolation> ProveIndicator(
        string indicator,
        IndicatorKind kind,
        ProvingSource on,
        string? reason,
        bool works,
        DateTimeOffset at
    )
    {
        if (Refusal(kind) is { } never)
            return new Fault("kind", never);
        if (string.IsNullOrWhiteSpace(indicator))
            return new Fault("indicator", "Name the indicator.");
        if (on == ProvingSource.KnownLiveSource && string.IsNullOrWhiteSpace(reason))
            return new Fault("reason", "A known live source is taken only where no proving unit is to be had: say why.");
        if (!Done.Contains(Open))
            return new Fault("step", $"First: {NameOf(Missing(Prove)!)}.");
        if (Done.Contains(Disconnect))
            return new Fault("step", "It is disconnected. To isolate again, begin from the first step with a reason.");
        var source = on == ProvingSource.ProvingUnit ? "proving unit" : $"known live source, {reason!.Trim()}";
        if (!works)
            return Back(
                [Identify, Off, Lock, Open],
                "The indicator failed its proof: what was tested with it since counts for nothing. Take another one.",
                new(at, $"{indicator.Trim()} failed its proof on the {source}")
            );
        var proved = this with { Story = Story.Add(new(at, $"{indicator.Trim()} proved on the {source}")) };
        if (!Done.Contains(Prove))
            return proved with { Done = Done.Add(Prove), Indicator = indicator.Trim(), Dead = [] };
        if (Missing(ProveAgain) is { } first)
            return new Fault("step", $"It is proved. First: {NameOf(first)}.");
        if (!string.Equals(indicator.Trim(), Indicator, StringComparison.OrdinalIgnoreCase))
            return new Fault("indicator", $"Prove again the one that you tested with: {Indicator}.");
        return Done.Contains(ProveAgain) ? new Fault("step", "It is proved again already.") : proved with { Done = Done.Add(ProveAgain) };
    }

    /// <param name="volts">0 where nothing was indicated; anything else stops the job.</param>
    public Result<SafeIsolation> TestDead(Side side, string pair, double volts, DateTimeOffset at)
    {
        if (!Pairs.Contains(pair))
            return new Fault("pair", $"The pairs are {string.Join(", ", Pairs)}.");
        if (!double.IsFinite(volts) || volts < 0)
            return new Fault("volts", "A voltage is 0 or more.");
        if (!Done.Contains(Prove))
            return new Fault("step", $"First: {NameOf(Missing(Prove) ?? Prove)}.");
        if (Done.Contains(ProveAgain))
            return new Fault("step", "The indicator was proved again: to test once more, begin from the first step with a reason.");
        var where = side == Side.Supply ? "supply side" : "load side";
        if (volts > 0)
        {
            var found = string.Create(CultureInfo.InvariantCulture, $"{volts:0.###} V found on the {where}, {pair}");
            return Back(
                [],
                $"{found}: the job stops here. Cover on, find out what feeds it, and begin again from the first step.",
                new(at, found)
            );
        }
        var dead = Dead.RemoveAll(it => it.Side == side && it.Pair == pair).Add(new(side, pair, 0));
        var isWhole = Pairs.All(it => dead.Any(reading => reading.Side == side && reading.Pair == it));
        return this with
        {
            Dead = dead,
            Done = isWhole ? Done.Add(side == Side.Supply ? DeadAtSupply : DeadAtLoad) : Done,
            Story = Story.Add(new(at, $"Dead on the {where}, {pair}")),
        };
    }

    /// <summary>It is isolated once more, or an isolation is given up: nothing of it stands. A lock that is on stays on.</summary>
    public Result<SafeIsolation> BeginAgain(string reason, DateTimeOffset at) =>
        string.IsNullOrWhiteSpace(reason)
            ? new Fault("reason", "Say in a few words why it begins again.")
            : Back([], $"It begins again: {reason.Trim()}.", new(at, $"Begun again: {reason.Trim()}"));

    /// <summary>How a lock is left where the item is not restored: off after everything was made safe, or staying with somebody.</summary>
    public Result<SafeIsolation> LeaveLock(bool stays, string words, DateTimeOffset at)
    {
        if (!IsLocked)
            return new Fault("step", "No lock is on.");
        if (string.IsNullOrWhiteSpace(words))
            return new Fault("words", stays ? "Say whose lock stays on, and who has the key." : "Say how the place was left.");
        var said = $"{(stays ? "The lock stays on" : "Lock and tag off")}: {words.Trim()}";
        return Back([], $"{said}.", new(at, said)) with { IsLocked = false, LockStays = stays ? words.Trim() : null };
    }

    /// <summary>Nobody was there for a while: what was proved dead is proved again. What is restored stays restored.</summary>
    public SafeIsolation Lapse(string why, DateTimeOffset at) =>
        Done.Contains(Unlock) || !Done.Contains(Prove) ? this : Back([Identify, Off, Lock, Open], why, new(at, why));

    /// <summary>Somebody else goes on: the key, the lock and the proofs were another's.</summary>
    public SafeIsolation PassOn(string from, DateTimeOffset at) =>
        Done.IsEmpty || Done.Contains(Unlock)
            ? this
            : Back(
                [],
                $"{from} isolated it: whoever works here now isolates it with a lock of their own.",
                new(at, $"Taken over from {from}")
            );

    private SafeIsolation Back(ImmutableHashSet<string> to, string why, IsolationLine line) =>
        this with
        {
            Done = Done.Intersect(to),
            Dead = [],
            Indicator = null,
            Setback = why,
            Story = Story.Add(line),
        };

    /// <summary>The first step before this one that is not done.</summary>
    private string? Missing(string step) => Order.TakeWhile(it => it != step).FirstOrDefault(it => !Done.Contains(it));
}
