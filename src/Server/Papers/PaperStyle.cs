using Microsoft.AspNetCore.Components;

namespace Osierwand.Server.Papers;

/// <summary>The letters and the sheet of every paper, within the paper itself: it reads the same on a screen, in print and from a
/// folder.</summary>
internal static class PaperStyle
{
    public static readonly MarkupString Sheet = new($"<style>{Fonts()}{Rules}</style>");

    private static string Fonts() => Face("AtkinsonHyperlegibleNext-Regular.ttf", 400) + Face("AtkinsonHyperlegibleNext-Bold.ttf", 700);

    private static string Face(string file, int weight)
    {
        using var stream =
            typeof(PaperStyle).Assembly.GetManifestResourceStream(file)
            ?? throw new FileNotFoundException($"The font {file} does not ship with this build.");
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return $"@font-face{{font-family:Paper;font-weight:{weight};src:url(data:font/ttf;base64,{Convert.ToBase64String(bytes)})}}";
    }

    private const string Rules = """
        @page{size:A4;margin:17mm 15mm 20mm;@bottom-right{content:counter(page) " of " counter(pages);font:8.5pt Paper,sans-serif;color:#655f50}}
        *{box-sizing:border-box}
        html{font:10pt/1.4 Paper,system-ui,sans-serif;color:#22261f;background:#fff;font-variant-numeric:tabular-nums}
        body{margin:0}
        main{max-width:180mm;margin:0 auto}
        @media screen{main{padding:14mm 12mm}}
        @media screen and (max-width:640px){main{padding:5mm 4mm} html{font-size:11pt}}
        .top{display:flex;justify-content:space-between;gap:8mm;align-items:flex-start;color:#655f50;font-size:8.5pt}
        .number{text-align:right;max-width:110mm;overflow-wrap:anywhere}
        .wordmark{font-size:15pt;line-height:1.1;color:#22261f;white-space:nowrap}
        .wordmark span{color:#56652f;font-weight:700}
        h1{font-size:20pt;line-height:1.15;margin:9mm 0 0}
        .under{margin:1mm 0 0;color:#655f50;font-size:11pt}
        h2{font-size:11.5pt;margin:6.5mm 0 0;padding-bottom:1.2mm;border-bottom:1.4pt solid #22261f;break-after:avoid}
        .verdict{display:flex;gap:5mm;align-items:center;margin:6mm 0 0}
        .what{font-size:11pt;overflow-wrap:anywhere}
        .tag{font-weight:700}
        .outcome{font-size:17pt;font-weight:700;line-height:1.2}
        .act{margin:5mm 0 0;padding:1mm 0 1mm 4mm;border-left:1.6mm solid #34525e;font-size:11pt;break-inside:avoid;overflow-wrap:anywhere}
        .act.loud{border-color:#a82c17}
        ul{margin:2mm 0 0;padding-left:5mm}
        li{margin:.6mm 0;overflow-wrap:anywhere}
        .evaluation{margin:2mm 0 0;font-size:11pt}
        .line{margin:1.6mm 0 0}
        .facts{margin:2mm 0 0}
        .facts div{display:grid;grid-template-columns:42mm 1fr;gap:4mm;padding:.7mm 0;break-inside:avoid}
        .facts dt{color:#655f50;overflow-wrap:anywhere}
        .facts dd{margin:0;overflow-wrap:anywhere}
        .kept{break-inside:avoid}
        table{width:100%;border-collapse:collapse;margin:1mm 0 0}
        thead{display:table-header-group}
        th{font-size:8.5pt;font-weight:400;color:#655f50;text-align:left;padding:1mm 2mm 1mm 0;border-bottom:.5pt solid #d9d4c4}
        td{vertical-align:top;padding:1.6mm 2mm 1.4mm 0;border-bottom:.5pt solid #d9d4c4}
        tr{break-inside:avoid}
        .name{font-weight:700;overflow-wrap:anywhere}
        .small{font-size:8.5pt;line-height:1.3;color:#655f50;overflow-wrap:anywhere}
        .figure{text-align:right;white-space:nowrap}
        .figure .small{white-space:normal}
        td.figure{min-width:22mm}
        .rail{width:38mm}
        .status{white-space:nowrap}
        .status .fail{font-weight:700}
        .unseen{position:absolute;clip-path:inset(50%);width:1px;height:1px;overflow:hidden}
        svg{display:block;overflow:visible;flex:none}
        .ring{fill:none;stroke-width:3.6;stroke-linecap:round}
        .rails path{stroke-linecap:round;fill:none}
        .rails .hatch{stroke:#a5b277;stroke-width:1.4;stroke-linecap:butt}
        .rails .line{stroke:#4b4538;stroke-width:1.4}
        .rails .stub{stroke:#9a9484;stroke-width:2;stroke-linecap:butt}
        .rails .post{stroke:#22261f;stroke-width:1.8;stroke-linecap:butt}
        svg .pass,svg.pass{stroke:#1d6650} svg .advice,svg.advice{stroke:#8a5600} svg .fail,svg.fail{stroke:#a82c17} svg .open,svg.open{stroke:#655f50}
        span.pass{color:#1d6650} span.advice{color:#8a5600} span.fail{color:#a82c17} span.open{color:#655f50}
        .sign{display:grid;grid-template-columns:1fr 1fr;gap:12mm;margin-top:16mm;font-size:8.5pt;color:#655f50}
        .sign div{border-top:.7pt solid #22261f;padding-top:1mm}
        footer{margin-top:8mm;padding-top:2mm;border-top:.5pt solid #d9d4c4;font-size:8.5pt;color:#655f50;overflow-wrap:anywhere}
        @media (max-width:640px){.facts div{grid-template-columns:1fr;gap:0;padding:1.2mm 0}.rail{display:none}.top{display:block}.number{text-align:left;margin-top:2mm}}
        """;
}
