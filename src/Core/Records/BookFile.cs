using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Osierwand.Core.Records;

/// <summary>
/// A client's book as a file to take away, one JSON object a line: the first says whose book it is, then every record with all that its
/// hash covers, last the signed head. Whoever has the house's public key can check it without the house, its program or its database.
/// </summary>
public static class BookFile
{
    public const string Format = "osierwand-book/1";

    public static string FirstLine(Guid clientId, string client) =>
        Line(writer =>
        {
            writer.WriteString("format", Format);
            writer.WriteString("clientId", clientId);
            writer.WriteString("client", client);
        });

    public static string RecordLine(KeptRecord it) =>
        Line(writer =>
        {
            writer.WriteNumber("number", it.Number);
            writer.WriteNumber("form", it.Form);
            writer.WriteString("columns", it.Columns.ToString());
            writer.WriteString("record", it.Record.Span);
            writer.WriteString("taken", it.Taken.Span);
            writer.WriteString("stoodBefore", it.StoodBefore.Span);
            writer.WriteString("standsAfter", it.StandsAfter.Span);
            writer.WriteString("hash", Convert.ToHexStringLower(it.Hash));
        });

    public static string LastLine(BookHead head, string keyId, byte[] signature) =>
        Line(writer =>
        {
            writer.WriteString("head", head.Text);
            writer.WriteString("keyId", keyId);
            writer.WriteString("signature", Convert.ToBase64String(signature));
        });

    /// <param name="lines">Of the file.</param>
    /// <param name="key">The house's public key, had from the house or from an earlier paper.</param>
    /// <returns>How many records were found whole under a signed head, or the first thing that is wrong.</returns>
    public static Result<long> Check(IEnumerable<string> lines, ECDsa key)
    {
        var walk = BookWalk.FromStart();
        var (at, isSigned) = (0, false);
        string? client = null;
        foreach (var line in lines)
        {
            at++;
            try
            {
                using var document = JsonDocument.Parse(line);
                var it = document.RootElement;
                if (isSigned)
                    return new Fault($"line {at}", "something stands after the signed head");
                if (client is null)
                {
                    if (!it.TryGetProperty("format", out var format) || format.GetString() != Format)
                        return new Fault($"line {at}", $"the file does not begin as {Format}");
                    client = it.GetProperty("clientId").GetString();
                }
                else if (it.TryGetProperty("head", out var head))
                {
                    if (SignedFault(head.GetString()!, client!, walk, it, key) is { } why)
                        return new Fault($"line {at}", why);
                    isSigned = true;
                }
                else
                {
                    var kept = Read(it);
                    if (walk.Take(kept) is { } broken)
                        return new Fault($"line {at}", broken);
                    // One way to write it and no other: nothing can hide in what a reader forgives.
                    if (RecordLine(kept) != line)
                        return new Fault($"line {at}", "it is not written as such a book is");
                }
            }
            catch (Exception garbled)
                when (garbled is JsonException or KeyNotFoundException or FormatException or InvalidOperationException)
            {
                return new Fault($"line {at}", "it is not a line of such a book");
            }
        }
        return isSigned ? walk.Number : new Fault($"line {at}", "the file ends without a signed head");
    }

    private static string? SignedFault(string head, string client, BookWalk walk, JsonElement it, ECDsa key)
    {
        var parts = head.Split('\n');
        if (parts is not [_, var whose, var number, var hash, _] || whose != client)
            return "the head is another book's";
        if (
            number != walk.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)
            || hash != Convert.ToHexStringLower(walk.Hash)
        )
            return $"the head is signed at record {number}, and the file's last record is {walk.Number}";
        var text = it.GetProperty("signature").GetString()!;
        var signature = Convert.FromBase64String(text);
        return
            Convert.ToBase64String(signature) == text && key.VerifyData(Encoding.UTF8.GetBytes(head), signature, HashAlgorithmName.SHA256)
            ? null
            : "the signature under the head is not this key's";
    }

    private static KeptRecord Read(JsonElement it)
    {
        ReadOnlyMemory<byte> Text(string name) => Encoding.UTF8.GetBytes(it.GetProperty(name).GetString()!);
        return new(
            it.GetProperty("number").GetInt64(),
            it.GetProperty("form").GetInt16(),
            RecordColumns.Read(it.GetProperty("columns").GetString()!),
            Text("record"),
            Text("taken"),
            Text("stoodBefore"),
            Text("standsAfter"),
            Convert.FromHexString(it.GetProperty("hash").GetString()!)
        );
    }

    private static string Line(Action<Utf8JsonWriter> write)
    {
        var buffer = new System.Buffers.ArrayBufferWriter<byte>();
        using (
            var writer = new Utf8JsonWriter(
                buffer,
                new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }
            )
        )
        {
            writer.WriteStartObject();
            write(writer);
            writer.WriteEndObject();
        }
        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }
}
