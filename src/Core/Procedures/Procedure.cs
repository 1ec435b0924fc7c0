using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Procedures;

/// <summary>
/// A plan fixed and named, so that a team tests alike. A version is never changed: an edit makes the next one, and an inspection keeps the
/// version that it ran. It orders, adds and tightens; limits and what is required stay the standard's, types stay the device's.
/// </summary>
public sealed record Procedure
{
    public const string FormatName = "osierwand-procedure/1";

    [JsonPropertyOrder(-1)]
    public string Format { get; init; } = FormatName;

    /// <summary>Of the procedure, the same in all its versions.</summary>
    public required Guid Id { get; init; }

    /// <summary>From 1.</summary>
    public required int Version { get; init; }

    /// <summary>Tells the next technician what it is for and which adapters to bring: "Monitor, 10 leads, with ECG comb".</summary>
    public required string Name { get; init; }

    /// <summary>The standard that judges it.</summary>
    public required string PackId { get; init; }

    /// <summary>What else whoever runs it should know.</summary>
    public string Remark { get; init; } = "";

    /// <summary>The model it is made for; laid on the bench such a device takes it by itself. Null: it is chosen by hand.</summary>
    public string? Maker { get; init; }
    public string? Model { get; init; }

    /// <summary>What to bring.</summary>
    public IReadOnlyList<string> Adapters { get; init; } = [];

    /// <summary>The applied parts that it speaks of, as the device has them.</summary>
    public IReadOnlyList<ProcedureModule> Modules { get; init; } = [];

    /// <summary>In the order in which they are done.</summary>
    public required IReadOnlyList<ProcedureStep> Steps { get; init; }

    /// <summary>As run sheets and papers name it.</summary>
    [JsonIgnore]
    public string Title => $"{Name}, version {Version}";

    /// <summary>Whether it is made for this model; letters' case does not matter.</summary>
    public bool IsMadeFor(string? maker, string? model) =>
        Model is { } own
        && string.Equals(own, model?.Trim(), StringComparison.OrdinalIgnoreCase)
        && (Maker is null || string.Equals(Maker, maker?.Trim(), StringComparison.OrdinalIgnoreCase));

    public string ToJson() => JsonSerializer.Serialize(this, JsonRules.Procedure.Of<Procedure>());

    /// <returns>The procedure, or where and why this is none. Unknown members are refused, never dropped.</returns>
    public static Result<Procedure> Read(string json)
    {
        try
        {
            if (JsonSerializer.Deserialize(json, JsonRules.Procedure.Of<Procedure>()) is not { } read)
                return new Fault("", "is null");
            if (read.Format != FormatName)
                return new Fault("format", $"“{read.Format}” is not {FormatName}");
            return ProcedureRules.Faults(read) is [var first, ..] ? first : read;
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
        catch (NotSupportedException unknown)
        {
            return new Fault("", unknown.Message);
        }
    }

    /// <summary>The published JSON schema that every procedure follows.</summary>
    public static string Schema() =>
        JsonRules
            .Procedure.GetJsonSchemaAsNode(
                typeof(Procedure),
                new()
                {
                    TreatNullObliviousAsNonNullable = true,
                    TransformSchemaNode = (context, made) =>
                        context.TypeInfo.Type.IsEnum
                            ? new JsonObject
                            {
                                ["enum"] = new JsonArray([.. Words.Listed(context.TypeInfo.Type).Select(word => (JsonNode)word)]),
                            }
                            : made,
                }
            )
            .ToJsonString();
}

/// <summary>An applied part as the procedure means it. Its type is the device's to say: one that differs is refused.</summary>
/// <param name="Joined">Its connections are joined for the measurement; otherwise each is measured in turn.</param>
public sealed record ProcedureModule(string Name, AppliedPartType Type, int Connections, bool Joined);

/// <summary>One line of a procedure. A closed family.</summary>
[JsonPolymorphic(TypeDiscriminatorPropertyName = "do")]
[JsonDerivedType(typeof(Measure), "measure")]
[JsonDerivedType(typeof(LeaveOut), "leaveOut")]
[JsonDerivedType(typeof(Pause), "pause")]
[JsonDerivedType(typeof(Check), "check")]
[JsonDerivedType(typeof(Borrow), "borrow")]
public abstract record ProcedureStep
{
    private ProcedureStep() { }

    /// <summary>A step of the standard's plan.</summary>
    /// <param name="Step">Its key: "leakage/equipment/reversed".</param>
    /// <param name="Seconds">How long it is held; shorter than the plan's it changes nothing.</param>
    /// <param name="Limit">Tighter than the standard's; a looser one changes nothing.</param>
    public sealed record Measure(string Step, int? Seconds = null, OwnLimit? Limit = null) : ProcedureStep;

    /// <summary>A step of the standard's plan that is not done. The reason stands on the paper.</summary>
    public sealed record LeaveOut(string Step, string Reason) : ProcedureStep;

    /// <summary>Something is done by hand before it goes on: switched on or off, set to its charging state.</summary>
    /// <param name="Seconds">Until a powered reading counts; 0 at once.</param>
    public sealed record Pause(string Says, int Seconds = 0) : ProcedureStep;

    /// <summary>A check of the device's own function, beside the usual one.</summary>
    /// <param name="Target">Null where good or bad is answered.</param>
    public sealed record Check(string Name, CheckTarget? Target = null) : ProcedureStep;

    /// <summary>A step of another standard's plan, judged by that one's clause. It counts for itself and for none of the required
    /// steps.</summary>
    public sealed record Borrow(string PackId, string Step) : ProcedureStep;
}

/// <param name="Unit">Symbol of the contract: "uA", "ohm".</param>
/// <param name="Why">Whose figure it is: the maker's manual, the house.</param>
public sealed record OwnLimit(double Value, string Unit, string Why);

/// <summary>What a check should show.</summary>
/// <param name="Set">What the device is set to.</param>
/// <param name="Tolerance">How far from it is good, both ways, in the same unit.</param>
/// <param name="Unit">As the device shows it: "ml/h", "mmHg".</param>
public sealed record CheckTarget(double Set, double Tolerance, string Unit);
