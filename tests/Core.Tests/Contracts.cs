using System.Text;
using System.Text.Json;
using Osierwand.Core.Contracts;

namespace Osierwand.Core.Tests;

/// <summary>Asks the contract as the command line does.</summary>
internal static class Ask
{
    public static JsonElement Assess(string request) => One("assess", request);

    public static JsonElement One(string verb, string request)
    {
        using var input = JsonDocument.Parse(request);
        using var buffer = new MemoryStream();
        using (var writer = new Utf8JsonWriter(buffer))
            Contract.Answer(verb, input.RootElement, writer);
        return JsonDocument.Parse(Encoding.UTF8.GetString(buffer.ToArray())).RootElement.Clone();
    }

    /// <summary>A class I kettle with a metre and a half of 1.0 mm2, its look passed and working.</summary>
    public static string Kettle(string readings, string item = "", string more = "") =>
        $$"""
            {"id":"k","standard":"uk-cop-5","visual":"pass","item":{"kind":"appliance","class":"I","use":"portable","cord":{"lengthM":1.5,"conductorMm2":1.0}{{item}}},
             "readings":[{{readings}}{"test":"functional","ok":true}]{{more}}}
            """;
}
