using Osierwand.Core.Standards;

namespace Osierwand.Server.Standards;

/// <param name="Scope">Null for the tables that all standards share; they have no mains of their own either.</param>
/// <param name="Limits">How many rows it has, and <paramref name="House"/> how many of them the organisation tightens.</param>
public sealed record StandardCard(
    string Id,
    string Name,
    string ShortName,
    string Country,
    PackScope? Scope,
    string Version,
    double? NominalV,
    double? Hertz,
    int Limits,
    int House
);

/// <summary>A pack as a person reads it.</summary>
/// <param name="ScaleTo">Leakage is scaled to this share of nominal mains.</param>
/// <param name="Requirements">What a verdict asks for, in words, a line each.</param>
/// <param name="Changes">Every change of the house limits, newest first.</param>
public sealed record StandardPage(
    StandardCard Card,
    double ScaleTo,
    string CheckNote,
    IReadOnlyList<LimitGroup> Groups,
    IReadOnlyList<FlexRow> Flex,
    IReadOnlyList<CordRow> Leads,
    string? FuseRule,
    string? EarthSource,
    IReadOnlyList<ChangeRow> Changes,
    bool MayEdit
);

/// <summary>Rows of one test, or of one heading of a table.</summary>
public sealed record LimitGroup(Test? Test, string Name, IReadOnlyList<LimitRow> Rows);

/// <param name="Text">The limit in words: "≤ 0.1 Ω + R".</param>
/// <param name="Units">Symbols a house limit may be written in, the row's usual one first; empty where there is nothing to tighten.</param>
public sealed record LimitRow(
    string Id,
    string What,
    string Text,
    string Clause,
    string? Remark,
    IReadOnlyList<UnitChoice> Units,
    HouseCard? House
);

public sealed record UnitChoice(string Symbol, string Label);

public sealed record HouseCard(string Text, double Value, string Unit, string Reason);

public sealed record FlexRow(double Mm2, double MilliohmPerMetre, double? CarriesA);

public sealed record CordRow(double Mm2, double UpToM, string? Remark);

/// <param name="Text">What the row's house limit became; null where it was lifted.</param>
public sealed record ChangeRow(int Revision, string What, string? Text, string Reason, string By, DateTimeOffset At);

/// <summary>A lead's stricter limit on one row.</summary>
public sealed record HouseRequest(double Value, string Unit, string Reason);

/// <summary>Something a tester's display says, and what it usually means.</summary>
public sealed record SignCard(string Id, string Seen, IReadOnlyList<string> Says, IReadOnlyList<string> Causes, string Next);
