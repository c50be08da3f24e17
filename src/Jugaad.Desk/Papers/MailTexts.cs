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
    /// <summary>The names of all fields, in the order of the alphabet.</summary>
    public static IReadOnlyList<string> Fields { get; } =
    [.. typeof(MailFields).GetProperties().Select(p => p.Name).Order(StringComparer.Ordinal)];

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
