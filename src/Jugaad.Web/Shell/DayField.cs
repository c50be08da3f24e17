using System.Net;
using Jugaad.Core.Amounts;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// A field for a day: text, as the business writes days and as people type them (<see cref="TypedDay"/>), with a
/// calendar beside it. What is typed is settled by the server when one leaves the field, and read again, alike, where a
/// form is sent.
/// </summary>
internal static class DayField
{
    internal const string Type = "day";

    /// <summary>What makes an input one for a day.</summary>
    internal const string Attributes = "type=\"text\" data-day autocomplete=\"off\" spellcheck=\"false\"";

    internal const string Before = "<span class=\"day-field\">";

    /// <summary>The button of the calendar; the keys have Alt and arrow down in its place.</summary>
    internal static string After(string label) =>
        $"<button type=\"button\" class=\"day-open\" tabindex=\"-1\" aria-label=\"Calendar: {WebUtility.HtmlEncode(label)}\"><svg width=\"15\" height=\"15\" viewBox=\"0 0 15 15\" aria-hidden=\"true\"><path d=\"M1.5 3.5h12v10h-12zM1.5 6.5h12M4.5 1v2.5M10.5 1v2.5\" /><path class=\"on\" d=\"M8 9h3v2.5H8z\" /></svg></button></span>";
}

/// <summary>
/// An input for a day that has its own label: <c>&lt;input type="day" name="on" day="…" calendar="On the day"/&gt;</c>.
/// </summary>
[HtmlTargetElement("input", Attributes = "[type=day]", TagStructure = TagStructure.WithoutEndTag)]
public sealed class DayInputTag(FieldState state) : TagHelper
{
    /// <summary>The day that it shows; the editor sets its own.</summary>
    public DateOnly? Day { get; set; }

    /// <summary>What the calendar is for, for whoever hears it.</summary>
    public string Calendar { get; set; } = "";

    /// <summary>The field whose day <c>+14</c> counts from; today where none is named.</summary>
    public string? From { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.Attributes.SetAttribute("type", "text");
        output.Attributes.SetAttribute("data-day", From ?? "");
        output.Attributes.SetAttribute("autocomplete", "off");
        output.Attributes.SetAttribute("spellcheck", "false");
        var name = context.AllAttributes["name"]?.Value?.ToString();
        if (name is not null && state.Value(name, state.Written(Day)) is { } shown)
            output.Attributes.SetAttribute("value", shown);
        output.PreElement.AppendHtml(DayField.Before);
        output.PostElement.AppendHtml(DayField.After(Calendar));
        if (name is null || state.Of(name) is null)
            return;
        // Why stands at the head of the page: in a row of filters there is no room for it.
        output.Attributes.SetAttribute("aria-invalid", "true");
        output.Attributes.SetAttribute("aria-describedby", "refused");
        output.Attributes.SetAttribute("class", $"{context.AllAttributes["class"]?.Value} is-refused");
    }
}
