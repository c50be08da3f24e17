namespace Jugaad.Core;

/// <summary>Checks of typed text that many things share.</summary>
public static class Texts
{
    public static void Required(Refusals refusals, string field, string text, int most, string missing)
    {
        if (string.IsNullOrWhiteSpace(text))
            refusals.Add(field, missing);
        else
            Short(refusals, field, text, most);
    }

    /// <summary>Refuses text that is too long, or holds characters that cannot be printed.</summary>
    public static void Short(Refusals refusals, string field, string text, int most)
    {
        if (text.Length > most)
            refusals.Add(field, $"This has {text.Length} characters; at most {most} fit here. Shorten it.");
        if (text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t')))
            refusals.Add(field, "This holds a character that cannot be printed. Type it again, without pasting.");
    }

    /// <summary>Refuses what is not one plain mail address; empty is fine.</summary>
    public static void Email(Refusals refusals, string field, string text)
    {
        if (string.IsNullOrWhiteSpace(text))
            return;
        if (!IsEmail(text.Trim()))
            refusals.Add(
                field,
                $"“{(text.Length > 60 ? text[..60] + "…" : text)}” is not a mail address. Write it like name@place.example."
            );
    }

    /// <summary>One address of the form local@domain, without a display name.</summary>
    public static bool IsEmail(string text) =>
        text.Length <= 254
        && !text.Any(c => char.IsWhiteSpace(c) || char.IsControl(c) || c is '<' or '>' or ',' or ';' or '"')
        && System.Net.Mail.MailAddress.TryCreate(text, out var parsed)
        && parsed.Address == text
        && parsed.Host.Contains('.', StringComparison.Ordinal);
}
