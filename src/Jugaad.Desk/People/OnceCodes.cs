using System.Buffers.Binary;
using System.Globalization;
using System.Security.Cryptography;
using Jugaad.Desk.Kept;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.People;

/// <summary>
/// Codes of an authenticator app (TOTP, RFC 6238: SHA-1, 6 digits, 30 seconds), each good once: who looked over a
/// shoulder comes too late.
/// </summary>
public sealed class OnceCodes(TimeProvider clock) : AuthenticatorTokenProvider<Person>
{
    private const int Seconds = 30;

    /// <summary>Clocks of phones go wrong by so many steps.</summary>
    private const int Either = 1;

    public override async Task<bool> ValidateAsync(
        string purpose,
        string token,
        UserManager<Person> manager,
        Person user
    )
    {
        if (await manager.GetAuthenticatorKeyAsync(user) is not { Length: > 0 } key || token.Length != 6)
            return false;
        var now = clock.GetUtcNow().ToUnixTimeSeconds() / Seconds;
        for (var step = now - Either; step <= now + Either; step++)
        {
            if (
                step <= user.LastCodeStep
                || !CryptographicOperations.FixedTimeEquals(
                    System.Text.Encoding.ASCII.GetBytes(CodeOf(key, step)),
                    System.Text.Encoding.ASCII.GetBytes(token)
                )
            )
                continue;
            user.LastCodeStep = step;
            // Of two who use it at the same moment one finds the person changed meanwhile.
            return (await manager.UpdateAsync(user)).Succeeded;
        }

        return false;
    }

    /// <summary>The code of a step, of a secret in base 32 (RFC 4648).</summary>
    public static string CodeOf(string key, long step)
    {
        Span<byte> counter = stackalloc byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
#pragma warning disable CA5350 // RFC 6238 as apps have it: HMAC-SHA-1, for which no attack is known.
        var hash = HMACSHA1.HashData(Bytes(key), counter);
#pragma warning restore CA5350
        var at = hash[^1] & 0x0F;
        return ((BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(at)) & 0x7FFF_FFFF) % 1_000_000).ToString(
            "D6",
            CultureInfo.InvariantCulture
        );
    }

    private static byte[] Bytes(string key)
    {
        const string Alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bytes = new List<byte>();
        var (bits, count) = (0, 0);
        foreach (var letter in key.ToUpperInvariant().TrimEnd('='))
        {
            bits = (bits << 5) | Math.Max(0, Alphabet.IndexOf(letter, StringComparison.Ordinal));
            if ((count += 5) < 8)
                continue;
            bytes.Add((byte)(bits >> (count -= 8)));
            bits &= (1 << count) - 1;
        }

        return [.. bytes];
    }
}
