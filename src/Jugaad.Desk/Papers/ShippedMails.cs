using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using Jugaad.Core.Trade;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Papers;

/// <summary>What the program itself puts into the fields of mails, besides figures, numbers and days.</summary>
public enum MailPhrase
{
    /// <summary>How somebody is addressed by name.</summary>
    Dear,

    /// <summary>How somebody is addressed whose name is not known.</summary>
    Greeting,

    /// <summary>A number, its date and its due day.</summary>
    Line,

    LateOne,

    /// <summary>How many days late, behind a line.</summary>
    Late,

    NotDueYet,

    /// <summary>What is charged for late payment.</summary>
    Charged,

    StillOpen,

    PaidInFull,
}

/// <summary>The mails that ship in one language.</summary>
public sealed class ShippedMails
{
    private sealed record Mail(string Subject, IReadOnlyList<string> Body);

    private sealed record File(Dictionary<MailPhrase, string> Phrases, Dictionary<MailText, Mail> Texts);

    private static readonly JsonSerializerOptions Json = new()
    {
        PropertyNameCaseInsensitive = true,
        Converters = { new JsonStringEnumConverter() },
    };

    private static readonly Lazy<IReadOnlyDictionary<string, ShippedMails>> All = new(() =>
        Customer.Languages.ToDictionary(l => l.Code, l => Read(l.Code))
    );

    private readonly File _file;

    private ShippedMails(File file) => _file = file;

    public static ShippedMails English => All.Value["en"];

    /// <summary>Whether mails ship in a language.</summary>
    public static bool Ship(string language) => All.Value.ContainsKey(language);

    /// <summary>Those of a language; English ones where there are none.</summary>
    public static ShippedMails Of(string language) => All.Value.GetValueOrDefault(language) ?? English;

    private static ShippedMails Read(string language)
    {
        using var stream = typeof(ShippedMails).Assembly.GetManifestResourceStream(
            $"Jugaad.Desk.Mails.{language}.json"
        )!;
        return new ShippedMails(JsonSerializer.Deserialize<File>(stream, Json)!);
    }

    /// <summary>The subject and the text, with fields in double braces.</summary>
    public (string Subject, string Body) this[MailText text] =>
        (_file.Texts[text].Subject, string.Join('\n', _file.Texts[text].Body));

    /// <summary>A phrase with something put in.</summary>
    public string Say(MailPhrase phrase, params object[] with) =>
        string.Format(CultureInfo.InvariantCulture, _file.Phrases[phrase], with);
}
