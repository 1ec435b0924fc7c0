using System.Collections.Immutable;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Isolation;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;

namespace Osierwand.Core;

/// <remarks>Beside the rooms, as each of them reads its files by it and it knows them all.</remarks>
/// <summary>Every type of ours that is written as JSON, described once by the compiler's generator, so that it also runs trimmed in the
/// browser. How each file or border writes it is said by its <see cref="JsonRules"/>, not here: a description for each would write the
/// same types again, and the descriptions are larger than the rules themselves.</summary>
[JsonSourceGenerationOptions(GenerationMode = JsonSourceGenerationMode.Metadata)]
[JsonSerializable(typeof(Ruling))]
[JsonSerializable(typeof(ImmutableArray<HouseRuling>))]
[JsonSerializable(typeof(List<BenchEvent>))]
[JsonSerializable(typeof(BenchEvent))]
[JsonSerializable(typeof(BenchView))]
[JsonSerializable(typeof(BenchState.Digest))]
[JsonSerializable(typeof(InspectionRecord))]
[JsonSerializable(typeof(Procedure))]
[JsonSerializable(typeof(PackFile))]
[JsonSerializable(typeof(SharedTable))]
[JsonSerializable(typeof(ThresholdTable))]
[JsonSerializable(typeof(IntervalTable))]
[JsonSerializable(typeof(LookFile))]
[JsonSerializable(typeof(ComplaintFile))]
[JsonSerializable(typeof(SignatureFile))]
internal sealed partial class WrittenTypes : JsonSerializerContext;

/// <summary>How JSON is read and written: names in camel case, what is unknown refused, null only where the type allows it.</summary>
internal static class JsonRules
{
    /// <summary>Rulings, events and views, between hosts of one version and in drafts.</summary>
    public static readonly JsonSerializerOptions Bench = Sheet(JsonIgnoreCondition.Never);

    /// <summary>Records: what is null is not written.</summary>
    public static readonly JsonSerializerOptions Record = Sheet(JsonIgnoreCondition.WhenWritingNull);

    /// <summary>Procedures as a file that people read and edit: letters of other scripts stay legible in it.</summary>
    public static readonly JsonSerializerOptions Procedure = new(Record)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>Packs, tables and lists that ship or that a house writes: beyond the rest nothing may be missing or stand twice.</summary>
    public static readonly JsonSerializerOptions File = new()
    {
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        AllowDuplicateProperties = false,
        TypeInfoResolver = WrittenTypes.Default,
        Converters =
        {
            new WordConverter<PackScope>(),
            new WordConverter<Test>(),
            new WordConverter<Need>(),
            new WordConverter<Repeat>(),
            new WordConverter<AskedBy>(),
            new WordConverter<Place>(),
            new WordSetConverter<ItemKind>(),
            new WordSetConverter<ProtectionClass>(),
            new WordSetConverter<UseOf>(),
            new WordSetConverter<AppliedPartType>(),
            new WordSetConverter<LeakageKind>(),
            new WordSetConverter<LeakageMethod>(),
            new WordSetConverter<CurrentType>(),
            new WordSetConverter<MainsPolarity>(),
            new WordSetConverter<ConductorState>(),
            new WordSetConverter<PowerState>(),
            new WordSetConverter<Between>(),
            new WordSetConverter<EarthPart>(),
            new WordSetConverter<InsulationPart>(),
            new WordSetConverter<SyncTrigger>(),
            new WordConverter<Tightening>(),
            new WordSetConverter<PlugType>(),
        },
    };

    /// <exception cref="NotSupportedException">The type is not one of <see cref="WrittenTypes"/>.</exception>
    public static JsonTypeInfo<T> Of<T>(this JsonSerializerOptions rules) => (JsonTypeInfo<T>)rules.GetTypeInfo(typeof(T));

    private static JsonSerializerOptions Sheet(JsonIgnoreCondition ignored) =>
        new()
        {
            PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            AllowOutOfOrderMetadataProperties = true,
            RespectNullableAnnotations = true,
            DefaultIgnoreCondition = ignored,
            TypeInfoResolver = WrittenTypes.Default,
            Converters =
            {
                new WordConverter<ReadingSource>(),
                new WordConverter<NotTestedReason>(),
                new WordConverter<VoidCause>(),
                new WordConverter<SetAsideBy>(),
                new WordConverter<ItemState>(),
                new WordConverter<ClassEvidence>(),
                new WordConverter<Test>(),
                new WordConverter<Scope>(),
                new WordConverter<School>(),
                new WordConverter<DecisionRule>(),
                new WordConverter<ClassIIPolicy>(),
                new WordConverter<NewItemPolicy>(),
                new WordConverter<LeakagePolicy>(),
                new WordConverter<LeakageMethod>(),
                new WordConverter<MedicalInsulationPolicy>(),
                new WordConverter<HardWiredPolicy>(),
                new WordConverter<FixingsPolicy>(),
                new WordConverter<AccessLevel>(),
                new WordConverter<InletType>(),
                new WordConverter<CareNeed>(),
                new WordConverter<AppliedPartType>(),
                new WordConverter<KitKind>(),
                new WordConverter<KitFitness>(),
                new WordConverter<InstallationCategory>(),
                new WordConverter<Competence>(),
                new WordConverter<Side>(),
                new WordConverter<IndicatorKind>(),
                new WordConverter<ProbeOn>(),
                new WordConverter<ProvingSource>(),
                new WordConverter<PermanentLeakagePolicy>(),
                new WordConverter<Place>(),
                new WordConverter<Usage>(),
                new WordConverter<Moved>(),
                new WordConverter<Users>(),
                new WordConverter<Verdict>(),
                new WordConverter<LookAnswer>(),
                new WordConverter<ConductorFault>(),
                new WordConverter<Status>(),
                new WordConverter<Evaluation>(),
                new WordConverter<UseOf>(),
                new WordConverter<PlugType>(),
                new WordConverter<MainsSwitch>(),
                new WordConverter<StepFamily>(),
                new WordConverter<Standing>(),
                new WordConverter<StepAction>(),
                new WordConverter<AheadKind>(),
                new WordConverter<HazardKind>(),
                new WordConverter<FarEnd>(),
                new WordConverter<Doing>(),
                new WordConverter<EndKind>(),
                new WordConverter<DecidedBy>(),
                new WordConverter<Outcome>(),
                new WordConverter<Look>(),
                new WordConverter<ItemKind>(),
                new WordConverter<ProtectionClass>(),
            },
        };
}
