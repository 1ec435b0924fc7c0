using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Every leakage of a sheet stands in the matrix once, under its own condition.</summary>
public class MatrixTests
{
    private static readonly Item Monitor = OnTheBench.Pump with
    {
        AppliedParts = [new("ECG", AppliedPartType.CF, 10), new("cuff", AppliedPartType.BF)],
        UnearthedParts = ["handle"],
    };

    private static (SheetView Sheet, MatrixCard? Matrix) Of(Item item, string pack)
    {
        var sheet = new BenchSession(OnTheBench.RulingFor(item, pack), []).View().Sheet!;
        return (sheet, sheet.Matrix);
    }

    [Theory]
    [InlineData("iec-62353-2014", "as usual|polarity reversed")]
    [InlineData("nfpa-99-2012", "as usual|ground open|device off|device off, ground open")]
    [InlineData(
        "iec-60601-1-2012",
        "as usual|polarity reversed|neutral open|neutral open, polarity reversed|earth open|earth open, polarity reversed"
    )]
    public void Its_columns_are_the_conditions_that_the_standard_asks_for(string pack, string columns) =>
        string.Join("|", Of(Monitor, pack).Matrix.ShouldNotBeNull().Columns.Select(it => string.Join(", ", it.Words))).ShouldBe(columns);

    [Theory]
    [InlineData("iec-62353-2014")]
    [InlineData("nfpa-99-2012")]
    [InlineData("iec-60601-1-2012")]
    public void Each_leakage_has_one_cell_under_its_own_condition_and_in_its_own_row(string pack)
    {
        foreach (var item in Devices())
        {
            var (sheet, matrix) = Of(item, pack);
            var leakages = sheet.Steps.Where(step => step.Test == Test.Leakage).Select(step => step.Key).ToArray();
            if (matrix is null)
            {
                (
                    leakages.Length < 4 || !leakages.Any(key => key.Contains("open") || key.Contains("reversed") || key.Contains("off"))
                ).ShouldBeTrue();
                continue;
            }
            matrix.Rows.SelectMany(row => row.Cells).Where(key => key.Length > 0).Order().ShouldBe(leakages.Order());
            foreach (var row in matrix.Rows)
            {
                row.Cells.Count.ShouldBe(matrix.Columns.Count);
                foreach (var (key, column) in row.Cells.Zip(matrix.Columns).Where(it => it.First.Length > 0))
                {
                    var step = sheet.Steps.Single(it => it.Key == key);
                    step.Name.ShouldBe(row.Name);
                    var joining = step.Joining.ShouldNotBeNull();
                    (joining.IsReversed, joining.IsNeutralOpen, joining.IsEarthOpen).ShouldBe(
                        (column.IsReversed, column.IsNeutralOpen, column.IsEarthOpen)
                    );
                }
            }
        }
    }

    /// <summary>Classes, switches and random parts.</summary>
    private static IEnumerable<Item> Devices()
    {
        var random = new Random(62353);
        for (var made = 0; made < 40; made++)
            yield return Monitor with
            {
                Class = random.Next(3) == 0 ? ProtectionClass.II : ProtectionClass.I,
                MainsSwitch = random.Next(2) == 0 ? MainsSwitch.Electronic : MainsSwitch.Mechanical,
                UnearthedParts = random.Next(2) == 0 ? [] : ["handle", "rail"],
                AppliedParts =
                [
                    .. Enumerable
                        .Range(0, random.Next(5))
                        .Select(part => new AppliedPart($"part {part}", (AppliedPartType)random.Next(3), 1 + random.Next(10))),
                ],
            };
    }

    [Theory]
    [InlineData("ECG", 3, "R red RA white, L yellow LA black, F green LL red")]
    [InlineData("ecg leads", 5, "R red RA white, L yellow LA black, F green LL red, N black RL green, C white V brown")]
    [InlineData("EKG", 7, "")]
    [InlineData("SpO2", 3, "")]
    public void Electrode_leads_go_on_their_posts_by_both_schools_of_colours(string part, int connections, string posts)
    {
        var item = Monitor with { AppliedParts = [new(part, AppliedPartType.CF, connections)] };
        var step = Of(item, "iec-62353-2014").Sheet.Steps.First(it => it.Key.StartsWith("leakage/appliedPart"));
        string.Join(", ", step.Joining!.Posts.Select(it => $"{it.Iec} {it.IecColour} {it.Aha} {it.AhaColour}")).ShouldBe(posts);
    }

    [Fact]
    public void Ten_leads_are_four_limbs_and_six_of_the_chest() =>
        Of(Monitor, "iec-60601-1-2012")
            .Sheet.Steps.First(it => it.Key.StartsWith("leakage/patient") && it.Joining!.Posts.Count > 0)
            .Joining!.Posts.Select(it => it.Aha)
            .ShouldBe(["RA", "LA", "LL", "RL", "V1", "V2", "V3", "V4", "V5", "V6"]);

    [Fact]
    public void A_kettle_has_too_few_for_a_matrix() => Of(OnTheBench.Kettle, "uk-cop-5").Matrix.ShouldBeNull();
}
