using System.Net;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// A labelled input with its refusal beside it: <c>&lt;field name="email" label="Mail" value="…"/&gt;</c>.
/// </summary>
[HtmlTargetElement("field", TagStructure = TagStructure.WithoutEndTag)]
public sealed class FieldTag(FieldState state) : TagHelper
{
    public string Name { get; set; } = "";

    public string Label { get; set; } = "";

    public string? Value { get; set; }

    public string Type { get; set; } = "text";

    /// <summary>For a field of the type <c>day</c>: the day that it shows.</summary>
    public DateOnly? Day { get; set; }

    public string? Hint { get; set; }

    /// <summary>Rows of a larger text; 0 for a single line.</summary>
    public int Rows { get; set; }

    public bool Figure { get; set; }

    /// <summary>The label is there for those who do not see the column's head.</summary>
    public bool HideLabel { get; set; }

    public bool Required { get; set; }

    public string? Autocomplete { get; set; }

    public bool Autofocus { get; set; }

    /// <summary>What is offered while one types; anything else may be typed too.</summary>
    public IEnumerable<string>? Offers { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var refusal = state.Of(Name);
        var value = WebUtility.HtmlEncode(
            Type == "password" ? "" : state.Value(Name, Type == DayField.Type ? state.Written(Day) : Value) ?? ""
        );
        var described = $"{(Hint is null ? "" : $"{Name}-hint ")}{(refusal is null ? "" : $"{Name}-refusal")}".Trim();
        var common =
            $"id=\"{Name}\" name=\"{Name}\" class=\"form-control{(Figure ? " fig" : "")}{(refusal is null ? "" : " is-refused")}\""
            + (described.Length == 0 ? "" : $" aria-describedby=\"{described}\"")
            + (refusal is null ? "" : " aria-invalid=\"true\"")
            + (Required ? " aria-required=\"true\"" : "")
            + (Autocomplete is null ? "" : $" autocomplete=\"{Autocomplete}\"")
            + (Autofocus ? " autofocus" : "")
            + (Offers is null ? "" : $" list=\"{Name}-offers\"");
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "field");
        output.Content.AppendHtml(
            $"<label for=\"{Name}\"{(HideLabel ? " class=\"sr\"" : "")}>{WebUtility.HtmlEncode(Label)}</label>"
        );
        output.Content.AppendHtml(
            Type == DayField.Type
                ? $"{DayField.Before}<input {common} {DayField.Attributes} value=\"{value}\" />{DayField.After(Label)}"
            : Rows > 0 ? $"<textarea {common} rows=\"{Rows}\">{(value.StartsWith('\n') ? "\n" : "")}{value}</textarea>"
            : $"<input {common} type=\"{Type}\" value=\"{value}\"{(Figure ? " inputmode=\"decimal\"" : "")} />"
        );
        if (Offers is not null)
            output.Content.AppendHtml(
                $"<datalist id=\"{Name}-offers\">{string.Concat(Offers.Select(o => $"<option value=\"{WebUtility.HtmlEncode(o)}\"></option>"))}</datalist>"
            );
        if (Hint is not null)
            output.Content.AppendHtml($"<div id=\"{Name}-hint\" class=\"hint\">{WebUtility.HtmlEncode(Hint)}</div>");
        if (refusal is not null)
            output.Content.AppendHtml(
                $"<div id=\"{Name}-refusal\" class=\"refusal\">{WebUtility.HtmlEncode(refusal.Message)}</div>"
            );
    }
}

/// <summary>A labelled choice from a list, with its refusal beside it.</summary>
[HtmlTargetElement("choice", TagStructure = TagStructure.WithoutEndTag)]
public sealed class ChoiceTag(FieldState state) : TagHelper
{
    public string Name { get; set; } = "";

    public string Label { get; set; } = "";

    public string? Value { get; set; }

    /// <summary>The label is there for those who do not see the column's head.</summary>
    public bool HideLabel { get; set; }

    /// <summary>What is kept and what is shown.</summary>
    public IEnumerable<(string Value, string Text)> Options { get; set; } = [];

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var refusal = state.Of(Name);
        var chosen = state.Value(Name, Value);
        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "field");
        var refused = refusal is null ? "" : $" aria-invalid=\"true\" aria-describedby=\"{Name}-refusal\"";
        output.Content.AppendHtml(
            $"<label for=\"{Name}\"{(HideLabel ? " class=\"sr\"" : "")}>{WebUtility.HtmlEncode(Label)}</label><select id=\"{Name}\" name=\"{Name}\" class=\"form-select{(refusal is null ? "" : " is-refused")}\"{refused}>"
        );
        foreach (var (value, text) in Options)
            output.Content.AppendHtml(
                $"<option value=\"{WebUtility.HtmlEncode(value)}\"{(value == chosen ? " selected" : "")}>{WebUtility.HtmlEncode(text)}</option>"
            );
        output.Content.AppendHtml("</select>");
        if (refusal is not null)
            output.Content.AppendHtml(
                $"<div id=\"{Name}-refusal\" class=\"refusal\">{WebUtility.HtmlEncode(refusal.Message)}</div>"
            );
    }
}

/// <summary>A box to tick, with its label behind it; after a refusal it is as it was typed.</summary>
[HtmlTargetElement("tick", TagStructure = TagStructure.WithoutEndTag)]
public sealed class TickTag(FieldState state) : TagHelper
{
    public string Name { get; set; } = "";

    public string Label { get; set; } = "";

    public bool Value { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var ticked = state.WasTyped ? state.Value(Name, null) is not null : Value;
        var refusal = state.Of(Name);
        output.TagName = "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "tick");
        output.Content.AppendHtml(
            $"<label><input type=\"checkbox\" id=\"{Name}\" name=\"{Name}\"{(ticked ? " checked" : "")} /> {WebUtility.HtmlEncode(Label)}</label>"
        );
        if (refusal is not null)
            output.Content.AppendHtml($"<span class=\"refusal\">{WebUtility.HtmlEncode(refusal.Message)}</span>");
    }
}

/// <summary>All that was refused, at the head of the page, for whoever does not see the fields.</summary>
[HtmlTargetElement("refusals", TagStructure = TagStructure.WithoutEndTag)]
public sealed class RefusalsTag(FieldState state) : TagHelper
{
    /// <summary>What stands before it all, where the page speaks another language.</summary>
    public string NotDone { get; set; } = "Not done.";

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.TagName = null;
        if (state.Refusals.Count == 0)
            return;
        output.Content.AppendHtml(
            "<div class=\"refused\" role=\"alert\" tabindex=\"-1\" id=\"refused\"><strong>"
                + WebUtility.HtmlEncode(NotDone)
                + "</strong> "
        );
        output.Content.AppendHtml(
            string.Join(" ", state.Refusals.Take(6).Select(r => WebUtility.HtmlEncode(r.Message)))
        );
        output.Content.AppendHtml("</div>");
    }
}

/// <summary>
/// What every form that changes something carries: its token, and the key that makes sending it twice harmless.
/// </summary>
[HtmlTargetElement("form-key", TagStructure = TagStructure.WithoutEndTag)]
public sealed class FormKeyTag(FieldState state, IAntiforgery antiforgery) : TagHelper
{
    [ViewContext]
    [HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.TagName = null;
        var token = antiforgery.GetAndStoreTokens(ViewContext.HttpContext);
        var key = state.Value("formKey", null) ?? Guid.NewGuid().ToString("N");
        output.Content.AppendHtml(
            $"<input type=\"hidden\" name=\"{token.FormFieldName}\" value=\"{token.RequestToken}\" /><input type=\"hidden\" name=\"formKey\" value=\"{WebUtility.HtmlEncode(key)}\" />"
        );
    }
}
