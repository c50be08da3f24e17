using DotLiquid;
using DotLiquid.Exceptions;
using Jugaad.Core;

namespace Jugaad.Desk.Collecting;

/// <summary>Which text a mail begins with.</summary>
public enum MailText
{
    Quote,
    Invoice,
    GentleReminder,
    FirmReminder,
    LastReminder,
}

/// <summary>The fields that a mail text may use.</summary>
public sealed record MailFields
{
    public string Greeting { get; init; } = "";

    public string Business { get; init; } = "";

    public string Number { get; init; } = "";

    public string Total { get; init; } = "";

    public string Date { get; init; } = "";

    public string Until { get; init; } = "";

    public string Items { get; init; } = "";

    public string Overdue { get; init; } = "";

    public string Account { get; init; } = "";

    public string Sender { get; init; } = "";
}

/// <summary>Writes mail texts from templates with fields in double braces.</summary>
public static class MailTexts
{
    private static readonly Dictionary<MailText, (string Subject, string Body)> Shipped = new()
    {
        [MailText.Quote] = ("Quote {{ Number }} from {{ Business }}", """
            {{ Greeting }},

            here is our quote {{ Number }} over {{ Total }}.{% if Until != "" %} It holds until {{ Until }}.{% endif %}

            A short answer to this mail is enough to order.

            {{ Sender }}
            {{ Business }}
            """),
        [MailText.Invoice] = ("Invoice {{ Number }} from {{ Business }}", """
            {{ Greeting }},

            attached is our invoice {{ Number }} over {{ Total }}. Please pay it by {{ Until }}{% if Account != "" %} to {{ Account }}{% endif %} and state {{ Number }}.

            {{ Sender }}
            {{ Business }}
            """),
        [MailText.GentleReminder] = ("A reminder from {{ Business }}: {{ Overdue }} is due", """
            {{ Greeting }},

            perhaps it slipped by: as of {{ Date }} this is past its due day with us.

            {{ Items }}

            That comes to {{ Overdue }}. Could you see to it in the next days?{% if Account != "" %} Our account is {{ Account }}.{% endif %} If you have paid already, thank you, and please disregard this.

            {{ Sender }}
            {{ Business }}
            """),
        [MailText.FirmReminder] = ("{{ Overdue }} is overdue with {{ Business }}", """
            {{ Greeting }},

            as of {{ Date }} the following has not reached us, although it is well past its due day.

            {{ Items }}

            Please pay {{ Overdue }} within a week{% if Account != "" %} to {{ Account }}{% endif %}. If something keeps you from paying, tell us now, so that we can find a way.

            {{ Sender }}
            {{ Business }}
            """),
        [MailText.LastReminder] = ("Last reminder from {{ Business }}: {{ Overdue }}", """
            {{ Greeting }},

            in spite of what we sent before, this is still open on {{ Date }}.

            {{ Items }}

            We expect {{ Overdue }} within seven days{% if Account != "" %} on {{ Account }}{% endif %}. After that we take no further orders on account and hand the matter on.

            {{ Sender }}
            {{ Business }}
            """),
    };

    /// <summary>The subject and the text, with the fields filled in.</summary>
    public static (string Subject, string Body) Write(MailText text, MailFields fields)
    {
        var (subject, body) = Shipped[text];
        return (Fill(subject, fields), Fill(body, fields));
    }

    /// <exception cref="RefusalException">When the template is not well formed, or names a field that there is not.</exception>
    internal static string Fill(string template, MailFields fields)
    {
        try
        {
            var parsed = Template.Parse(template);
            var values = Hash.FromDictionary(typeof(MailFields).GetProperties().ToDictionary(p => p.Name, p => p.GetValue(fields)));
            var text = parsed.Render(new RenderParameters(System.Globalization.CultureInfo.InvariantCulture) { LocalVariables = values, ErrorsOutputMode = ErrorsOutputMode.Rethrow });
            return parsed.Errors.Count == 0 ? text : throw parsed.Errors[0];
        }
        catch (Exception unread) when (unread is SyntaxException or VariableNotFoundException or DotLiquid.Exceptions.ArgumentException)
        {
            throw new RefusalException("template", $"This text cannot be filled in: {unread.Message}");
        }
    }
}
