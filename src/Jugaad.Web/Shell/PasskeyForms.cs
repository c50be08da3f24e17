using System.Text.Json;
using Microsoft.AspNetCore.Identity;

namespace Jugaad.Web.Shell;

/// <summary>Reads what a device answered about a passkey.</summary>
internal static class PasskeyForms
{
    /// <returns>Null for what cannot be read, or answers nothing that was asked of this browser.</returns>
    internal static async Task<T?> ReadAsync<T>(Func<Task<T>> read)
        where T : class
    {
        try
        {
            return await read();
        }
        catch (Exception unread)
            when (unread
                    is JsonException
                        or PasskeyException
                        or InvalidOperationException
                        or ArgumentException
                        or FormatException
            )
        {
            return null;
        }
    }
}
