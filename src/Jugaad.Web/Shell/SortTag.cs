using System.Net;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace Jugaad.Web.Shell;

/// <summary>
/// A table head that sorts: <c>&lt;th sort="date"&gt;Date&lt;/th&gt;</c>; pressed again it turns the order round.
/// </summary>
[HtmlTargetElement("th", Attributes = "sort")]
public sealed class SortTag : TagHelper
{
    public string Sort { get; set; } = "";

    [ViewContext]
    [HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override async Task ProcessAsync(TagHelperContext context, TagHelperOutput output)
    {
        var request = ViewContext.HttpContext.Request;
        var now = request.Query["sort"].ToString();
        var next = now == Sort ? "-" + Sort : Sort;
        if (now == Sort)
            output.Attributes.SetAttribute("aria-sort", "ascending");
        if (now == "-" + Sort)
            output.Attributes.SetAttribute("aria-sort", "descending");
        var others = request
            .Query.Where(q => q.Key is not ("sort" or "page"))
            .Select(q => $"{Uri.EscapeDataString(q.Key)}={Uri.EscapeDataString(q.Value.ToString())}");
        var address = "?" + string.Join("&", others.Append($"sort={next}"));
        var inner = (await output.GetChildContentAsync()).GetContent();
        var arrow =
            now == Sort ? " ↑"
            : now == "-" + Sort ? " ↓"
            : "";
        output.Content.SetHtmlContent($"<a href=\"{WebUtility.HtmlEncode(address)}\">{inner}{arrow}</a>");
    }
}
