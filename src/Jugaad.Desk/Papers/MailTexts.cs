using System.Text.RegularExpressions;
using DotLiquid;
using DotLiquid.Exceptions;
using Jugaad.Core;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Papers;

/// <summary>The fields that a mail text may use.</summary>
public sealed record MailFields
{
    public string Greeting { get; init; } = "";

    public string Business { get; init; } = "";

    public string Number { get; init; } = "";

    /// <summary>What it comes to, with its currency: 1 234.50 EUR.</summary>
    public string Total { get; init; } = "";

    /// <summary>The bare number: 1234.50.</summary>
    public string TotalNumber { get; init; } = "";

    /// <summary>In words of money: one thousand two hundred and thirty-four euros and 50 cents.</summary>
    public string TotalInWords { get; init; } = "";

    public string Currency { get; init; } = "";

    /// <summary>What the paper is: quote, invoice.</summary>
    public string Kind { get; init; } = "";

    public string Customer { get; init; } = "";

    public string PurchaseOrder { get; init; } = "";

    public string Project { get; init; } = "";

    /// <summary>Where the customer sees the paper.</summary>
    public string Link { get; init; } = "";

    /// <summary>Where what is open can be paid; empty where there is no way, or nothing is open.</summary>
    public string Pay { get; init; } = "";

    /// <summary>The customer's own page: what is open, what was paid, their papers.</summary>
    public string Page { get; init; } = "";

    public string Date { get; init; } = "";

    public string Until { get; init; } = "";

    public string Items { get; init; } = "";

    public string Overdue { get; init; } = "";

    public string Account { get; init; } = "";

    public string Sender { get; init; } = "";
}

/// <summary>Writes mail texts from templates with fields in double braces.</summary>
public static partial class MailTexts
{
    private static readonly Dictionary<MailText, (string Subject, string Body)> Shipped = new()
    {
        [MailText.Quote] = (
            "Quote {{ Number }} from {{ Business }}",
            """
            {{ Greeting }},

            here is our quote {{ Number }} over {{ Total }}.{% if Until != "" %} It holds until {{ Until }}.{% endif %}

            {% if Link != "" %}Here you can look at it, choose, and accept or decline: {{ Link }}

            {% endif %}A short answer to this mail is enough to order.

            {{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.Invoice] = (
            "Invoice {{ Number }} from {{ Business }}",
            """
            {{ Greeting }},

            attached is our invoice {{ Number }} over {{ Total }}. Please pay it by {{ Until }}{% if Account != "" %} to {{ Account }}{% endif %} and state {{ Number }}.

            {% if Pay != "" %}You can also pay it here: {{ Pay }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.Order] = (
            "Your order with {{ Business }}: {{ Number }}",
            """
            {{ Greeting }},

            thank you for your order. Attached is {{ Number }} over {{ Total }}, for your records.

            {{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.DeliveryNote] = (
            "Delivery {{ Number }} from {{ Business }}",
            """
            {{ Greeting }},

            what is listed on the attached delivery note {{ Number }} is on its way to you.

            {{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.CreditNote] = (
            "Credit note {{ Number }} from {{ Business }}",
            """
            {{ Greeting }},

            attached is our credit note {{ Number }} over {{ Total }}. It is set against what is open; where nothing is, it stays to your credit.

            {{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.Receipt] = (
            "We received {{ Total }}: {{ Number }}",
            """
            {{ Greeting }},

            thank you: we received {{ Total }} on {{ Date }}, our receipt {{ Number }}.{% if Items != "" %} It was set against:

            {{ Items }}{% else %} It stays to your credit until you say what it is for.{% endif %}

            {{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.Message] = (
            "{{ Kind }} {{ Number }}",
            """
            {{ Business }}: your {{ Kind }} {{ Number }} over {{ Total }} is here: {{ Link }}
            """
        ),
        [MailText.GentleReminder] = (
            "A reminder from {{ Business }}: {{ Overdue }} is due",
            """
            {{ Greeting }},

            perhaps it slipped by: as of {{ Date }} this is past its due day with us.

            {{ Items }}

            That comes to {{ Overdue }}. Could you see to it in the next days?{% if Account != "" %} Our account is {{ Account }}.{% endif %} If you have paid already, thank you, and please disregard this.

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.FirmReminder] = (
            "{{ Overdue }} is overdue with {{ Business }}",
            """
            {{ Greeting }},

            as of {{ Date }} the following has not reached us, although it is well past its due day.

            {{ Items }}

            Please pay {{ Overdue }} within a week{% if Account != "" %} to {{ Account }}{% endif %}. If something keeps you from paying, tell us now, so that we can find a way.

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.LastReminder] = (
            "Last reminder from {{ Business }}: {{ Overdue }}",
            """
            {{ Greeting }},

            in spite of what we sent before, this is still open on {{ Date }}.

            {{ Items }}

            We expect {{ Overdue }} within seven days{% if Account != "" %} on {{ Account }}{% endif %}. After that we take no further orders on account and hand the matter on.

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.DueSoon] = (
            "Due soon with {{ Business }}: {{ Overdue }}",
            """
            {{ Greeting }},

            this is to let you know what falls due with us in the next days.

            {{ Items }}

            {% if Account != "" %}Our account is {{ Account }}. {% endif %}If it is on its way already, thank you.

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.FinalNotice] = (
            "{{ Business }} hands on what is open: {{ Overdue }}",
            """
            {{ Greeting }},

            we have written to you several times, and on {{ Date }} this is still open.

            {{ Items }}

            If {{ Overdue }} does not reach us within seven days{% if Account != "" %} on {{ Account }}{% endif %}, we give the matter to others to collect, at your cost.

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.Statement] = (
            "Statement from {{ Business }} of {{ Date }}",
            """
            {{ Greeting }},

            here is your statement of {{ Date }}.{% if Overdue != "" %} {{ Overdue }} of it is past its due day; please see to that first.{% endif %}{% if Account != "" %} Our account is {{ Account }}.{% endif %}

            {% if Pay != "" and Pay != Page %}You can pay it here: {{ Pay }}

            {% endif %}{% if Page != "" %}What is open{% if Pay == Page %}, and how to pay it at once{% endif %}: {{ Page }}

            {% endif %}{{ Sender }}
            {{ Business }}
            """
        ),
        [MailText.ReminderMessage] = (
            "{{ Overdue }} is open",
            """
            {{ Business }}: {{ Overdue }} is past its due day with us.{% if Account != "" %} Our account is {{ Account }}.{% endif %}{% if Pay != "" %} Pay here: {{ Pay }}{% endif %} If you have paid already, thank you.
            """
        ),
    };

    /// <summary>The names of all fields, in the order of the alphabet.</summary>
    public static IReadOnlyList<string> Fields { get; } =
    [.. typeof(MailFields).GetProperties().Select(p => p.Name).Order(StringComparer.Ordinal)];

    /// <summary>The words that ship for a kind of mail.</summary>
    public static (string Subject, string Body) ShippedWords(MailText text) => Shipped[text];

    /// <summary>The subject and the text that ship, with the fields filled in.</summary>
    public static (string Subject, string Body) Write(MailText text, MailFields fields) => Write(Shipped[text], fields);

    /// <summary>A subject and a text with the fields filled in.</summary>
    /// <exception cref="RefusalException">When one of them cannot be filled in, by its field.</exception>
    public static (string Subject, string Body) Write((string Subject, string Body) words, MailFields fields) =>
        (
            Fill(words.Subject, fields, "subject").ReplaceLineEndings(" ").Trim(),
            EmptyLines().Replace(Fill(words.Body, fields, "body"), "\n\n")
        );

    /// <summary>A field that is empty leaves one empty line, not two.</summary>
    [GeneratedRegex(@"(?:\r?\n){3,}")]
    private static partial Regex EmptyLines();

    [GeneratedRegex(@"https?://[^\s{]*(?:\{\{[^}]*\}\}[^\s{]*)*")]
    private static partial Regex AddressWithFields();

    [GeneratedRegex(@"\{\{\s*(?:Total|Overdue|TotalInWords)\s*\}\}")]
    private static partial Regex DressedAmount();

    /// <summary>The first amount that stands in an address as people read it, and not as a bare number; null for
    /// none.</summary>
    public static string? DressedAmountInAddress(string words) =>
        AddressWithFields()
            .Matches(words)
            .Select(a => DressedAmount().Match(a.Value))
            .FirstOrDefault(m => m.Success)
            ?.Value;

    /// <summary>Whether the words name a field.</summary>
    public static bool Name((string Subject, string Body) words, string field) =>
        Regex.IsMatch($"{words.Subject} {words.Body}", $@"\{{[{{%][^}}]*\b{field}\b");

    /// <summary>Fills the fields of a text whose values are given by name.</summary>
    /// <inheritdoc cref="Fill(string, MailFields, string)"/>
    public static string Fill(string template, IReadOnlyDictionary<string, object> values, string field)
    {
        TextBounds.Check(template, field);
        try
        {
            var parsed = Template.Parse(template);
            var text = parsed.Render(
                new RenderParameters(System.Globalization.CultureInfo.InvariantCulture)
                {
                    LocalVariables = Hash.FromDictionary(new Dictionary<string, object>(values)),
                    ErrorsOutputMode = ErrorsOutputMode.Rethrow,
                    MaxIterations = 1,
                    Timeout = 1_000,
                }
            );
            return parsed.Errors.Count == 0 ? TextBounds.Checked(text, field) : throw parsed.Errors[0];
        }
        catch (VariableNotFoundException unknown)
        {
            var name = Regex.Match(unknown.Message, "'([^']*)'").Groups[1].Value;
            throw new RefusalException(
                field,
                $"There is no field {{{{ {name} }}}} here. The fields are {string.Join(", ", values.Keys.Order(StringComparer.Ordinal))}; mind capitals."
            );
        }
        catch (Exception unread)
            when (unread
                    is SyntaxException
                        or DotLiquid.Exceptions.ArgumentException
                        or DotLiquid.Exceptions.StackLevelException
                        or TimeoutException
            )
        {
            var example = values.Keys.FirstOrDefault() ?? "Number";
            throw new RefusalException(
                field,
                $"This text cannot be filled in: a field is opened and not closed, or something stands in braces that is no field. Write fields as {{{{ {example} }}}}."
            );
        }
    }

    /// <exception cref="RefusalException">When the template is not well formed, or names a field that there is
    /// not.</exception>
    internal static string Fill(string template, MailFields fields, string field = "template") =>
        Fill(template, typeof(MailFields).GetProperties().ToDictionary(p => p.Name, p => p.GetValue(fields)!), field);
}
