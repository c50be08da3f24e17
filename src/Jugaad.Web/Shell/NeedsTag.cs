using Jugaad.Desk.Books;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// Leaves out what whoever is signed in has not the right to: <c>&lt;a needs="Money" …&gt;</c>. The desk asks again.
/// </summary>
[HtmlTargetElement("a", Attributes = "needs")]
[HtmlTargetElement("form", Attributes = "needs")]
[HtmlTargetElement("button", Attributes = "needs")]
[HtmlTargetElement("div", Attributes = "needs")]
public sealed class NeedsTag(IActor actor) : TagHelper
{
    public Right Needs { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (!actor.May(Needs))
            output.SuppressOutput();
    }
}
