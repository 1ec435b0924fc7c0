using System.Text.Json;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Server.Kit;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>The choices where schools differ: the client's, or a round's own with its reason.</summary>
internal static class RoundPolicy
{
    public static Policy Of(Round round, Client client) =>
        round.OwnPolicy is { } own ? JsonSerializer.Deserialize<Policy>(own, KitAtHand.Stored)! : client.Policy;

    public static string Json(Policy policy) => JsonSerializer.Serialize(policy, KitAtHand.Stored);

    /// <summary>Each choice in words, as it stands on screen and paper.</summary>
    public static string[] InWords(Policy it, LabelSchool labels, double? cap) =>
        [
            it.ClassII == ClassIIPolicy.Measure ? "class II measured" : "class II looked at only, where allowed",
            it.Leakage switch
            {
                LeakagePolicy.Powered => "leakage powered",
                LeakagePolicy.Alternative => "leakage by the alternative method",
                _ => "no leakage where insulation may stand alone",
            },
            it.MedicalMethod switch
            {
                LeakageMethod.Direct => "medical leakage direct",
                LeakageMethod.Differential => "medical leakage differential",
                _ => "medical leakage alternative",
            },
            it.MedicalInsulation switch
            {
                MedicalInsulationPolicy.Yes => "medical insulation measured",
                MedicalInsulationPolicy.CordOnly => "medical insulation of the cord only",
                _ => "no medical insulation",
            },
            it.NewItem == NewItemPolicy.Full ? "new items in full" : "new items looked at",
            it.HardWired == HardWiredPolicy.InScope ? "hard-wired in scope" : "hard-wired out of scope",
            it.Fixings == FixingsPolicy.TakeOut ? "fixings may come out" : "fixings stay in",
            labels == LabelSchool.WithNextDate ? "labels with the next date" : "labels without a date",
            cap is { } months ? $"at most {months:0.#} months" : "no fixed interval",
        ];
}
