using System.Net;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// The box that picks a row of a list: <c>&lt;td pick="12" named="INV-1"&gt;</c>, elsewhere <c>&lt;pick row="12"
/// /&gt;</c>; in the head, <c>&lt;th pick-all&gt;</c> picks all that are shown. They belong to the form of the buttons
/// below, so that a row may have forms of its own.
/// </summary>
[HtmlTargetElement("td", Attributes = "pick")]
[HtmlTargetElement("pick", Attributes = "row", TagStructure = TagStructure.WithoutEndTag)]
public sealed class PickTag : TagHelper
{
    /// <summary>What tells the row apart.</summary>
    public int Pick { get; set; }

    /// <inheritdoc cref="Pick"/>
    public int Row { get; set; }

    /// <summary>What it is called.</summary>
    public string Named { get; set; } = "";

    [ViewContext]
    [HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var (id, request) = (Pick + Row, ViewContext.HttpContext.Request);
        if (context.TagName == "pick")
            output.TagName = null;
        else
            output.Attributes.SetAttribute("class", "picks");
        // What was picked stays picked where the form was refused.
        var picked = request.HasFormContentType && request.Form["pick"].Any(p => Picking.Read(p) == id);
        output.Content.SetHtmlContent(
            $"<input type=\"checkbox\"{(picked ? " checked" : "")} form=\"picked\" name=\"pick\" value=\"{id}\" class=\"pick\" aria-label=\"Pick {WebUtility.HtmlEncode(Named)}\" x-on:change=\"count\" />"
        );
        output.TagMode = TagMode.StartTagAndEndTag;
    }
}

/// <inheritdoc cref="PickTag"/>
[HtmlTargetElement("th", Attributes = "pick-all")]
public sealed class PickAllTag : TagHelper
{
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.Attributes.RemoveAll("pick-all");
        output.Attributes.SetAttribute("class", "picks");
        output.Content.SetHtmlContent(
            "<input type=\"checkbox\" aria-label=\"Pick all that are shown\" x-on:change=\"all\" />"
        );
    }
}
