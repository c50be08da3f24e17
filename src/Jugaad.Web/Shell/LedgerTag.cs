using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// A ledger's table stands in a box of its own: where it is wider than the screen, it scrolls there and the page does
/// not.
/// </summary>
[HtmlTargetElement("table", Attributes = "class")]
public sealed class LedgerTag : TagHelper
{
    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var classes = (context.AllAttributes["class"]?.Value?.ToString() ?? "").Split(' ');
        if (!classes.Contains("ledger"))
            return;
        output.PreElement.AppendHtml("<div class=\"scrolls\">");
        output.PostElement.AppendHtml("</div>");
    }
}
