namespace Osierwand.Core.Bench;

/// <summary>Which facts belong to a model and not to the one item: what plate and build say of all that were made alike.</summary>
public static class ModelFacts
{
    /// <summary>The part of a correction that may hold for others of the model. Flex, fuse, place and serial are each item's own.</summary>
    /// <returns>Null where nothing of it does.</returns>
    public static FactChanges? Of(FactChanges it)
    {
        var ofModel = new FactChanges
        {
            Evidence = it.Evidence,
            Use = it.Use,
            RatedVoltageV = it.RatedVoltageV,
            RatedPowerW = it.RatedPowerW,
            RatedCurrentA = it.RatedCurrentA,
            RcdMa = it.RcdMa,
            RcdOwnTripMs = it.RcdOwnTripMs,
            Outlets = it.Outlets,
            Heating = it.Heating,
            SurgeProtected = it.SurgeProtected,
            AllInsulated = it.AllInsulated,
            MainsSwitch = it.MainsSwitch,
            StartUpSeconds = it.StartUpSeconds,
            EarthedParts = it.EarthedParts,
            UnearthedParts = it.UnearthedParts,
            PartPlates = it.PartPlates,
            Phases = it.Phases,
            Detachable = it.Detachable,
            Inlet = it.Inlet,
            LifeYears = it.LifeYears,
            LifeSupporting = it.LifeSupporting,
            AppliedParts = it.AppliedParts,
            NoAppliedParts = it.NoAppliedParts,
            Defibrillator = it.Defibrillator,
            Accessories = it.Accessories,
            MakerAsks = it.MakerAsks,
        };
        return ofModel == new FactChanges() ? null : ofModel;
    }
}
