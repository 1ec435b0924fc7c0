using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.WebUtilities;

namespace Osierwand.Server.Tests;

/// <summary>A device that keeps one passkey, as a browser would let it answer (W3C Web Authentication, level 2): a P-256 key, no
/// attestation.</summary>
internal sealed class Device : IDisposable
{
    private const byte UserPresent = 0x01;
    private const byte UserVerified = 0x04;
    private const byte HoldsKey = 0x40;
    private readonly ECDsa key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
    private readonly byte[] id = RandomNumberGenerator.GetBytes(16);
    private string userHandle = "";
    private uint uses;

    /// <summary>Whether finger, face or code are asked for before it answers.</summary>
    public bool Verifies { get; set; } = true;

    /// <summary>Where the page that asks comes from.</summary>
    public string Origin { get; set; } = "http://localhost";

    public string Id => WebEncoders.Base64UrlEncode(id);

    public object Make(JsonElement options)
    {
        userHandle = options.GetProperty("user").GetProperty("id").GetString()!;
        var point = key.ExportParameters(false).Q;
        // COSE: 1 (kind) 2 (EC2), 3 (algorithm) -7 (ES256), -1 (curve) 1 (P-256), -2 x, -3 y.
        byte[] cose = [0xa5, 0x01, 0x02, 0x03, 0x26, 0x20, 0x01, 0x21, 0x58, 0x20, .. point.X!, 0x22, 0x58, 0x20, .. point.Y!];
        byte[] length = [0, (byte)id.Length];
        byte[] data =
        [
            .. Head(options.GetProperty("rp").GetProperty("id").GetString()!, HoldsKey),
            .. new byte[16],
            .. length,
            .. id,
            .. cose,
        ];
        byte[] attestation =
        [
            0xa3,
            .. Word("fmt"),
            .. Word("none"),
            .. Word("attStmt"),
            0xa0,
            .. Word("authData"),
            0x58,
            checked((byte)data.Length),
            .. data,
        ];
        return Credential(
            new
            {
                clientDataJSON = WebEncoders.Base64UrlEncode(Client("webauthn.create", options)),
                attestationObject = WebEncoders.Base64UrlEncode(attestation),
                transports = Array.Empty<string>(),
            }
        );
    }

    public object Show(JsonElement options)
    {
        uses++;
        var client = Client("webauthn.get", options);
        var data = Head(options.GetProperty("rpId").GetString()!, 0);
        return Credential(
            new
            {
                clientDataJSON = WebEncoders.Base64UrlEncode(client),
                authenticatorData = WebEncoders.Base64UrlEncode(data),
                signature = WebEncoders.Base64UrlEncode(
                    key.SignData([.. data, .. SHA256.HashData(client)], HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence)
                ),
                userHandle,
            }
        );
    }

    public void Dispose() => key.Dispose();

    private object Credential(object response) =>
        new
        {
            id = Id,
            rawId = Id,
            type = "public-key",
            clientExtensionResults = new { },
            response,
        };

    private byte[] Client(string type, JsonElement options) =>
        JsonSerializer.SerializeToUtf8Bytes(
            new
            {
                type,
                challenge = options.GetProperty("challenge").GetString(),
                origin = Origin,
                crossOrigin = false,
            }
        );

    private byte[] Head(string house, byte more)
    {
        var count = new byte[4];
        BinaryPrimitives.WriteUInt32BigEndian(count, uses);
        var flags = (byte)(UserPresent | (Verifies ? UserVerified : 0) | more);
        return [.. SHA256.HashData(Encoding.UTF8.GetBytes(house)), flags, .. count];
    }

    /// <summary>CBOR text of fewer than 24 bytes.</summary>
    private static byte[] Word(string text) => [(byte)(0x60 + text.Length), .. Encoding.ASCII.GetBytes(text)];
}
