using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Reports;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Reports;

/// <summary>Every report by the question that it answers, one's kept views first.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class IndexModel(KeptViews views) : DeskPage
{
    public IReadOnlyList<KeptView> Views { get; private set; } = [];

    public static IEnumerable<IGrouping<ReportQuestion, ReportKind>> Groups =>
        ReportCatalog.All.Where(k => !k.IsBehind).GroupBy(k => k.Question);

    public static string Words(ReportQuestion question) =>
        question switch
        {
            ReportQuestion.WhoOwesUs => "Who owes us?",
            ReportQuestion.WhatDidWeSell => "What did we sell?",
            ReportQuestion.WhatDoWeOweTheTaxOffice => "What do we owe the tax office?",
            ReportQuestion.WhatHappened => "What happened?",
            _ => "What do we have?",
        };

    public static string TitleOf(KeptView view) => ReportCatalog.Find(view.Report)?.Title ?? view.Report;

    public static IEnumerable<(string, string)> Paces { get; } =
    [
        (nameof(ViewPace.Never), "to nobody"),
        (nameof(ViewPace.Weekly), "every week"),
        (nameof(ViewPace.Monthly), "every month"),
        (nameof(ViewPace.Quarterly), "every quarter"),
    ];

    /// <summary>Which view's form was refused; 0 for none.</summary>
    public int Refused => Request.HasFormContentType && int.TryParse(Request.Form["view"], out var id) ? id : 0;

    protected override async Task<bool> ShowAsync()
    {
        Views = await views.AllAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await views.LetGoAsync(Form.Whole("view"), Form.Key);
        return Done("Let go. The report itself stays.");
    }

    [Posts(Right.Mail)]
    public async Task<IActionResult> OnPostSendAsync()
    {
        var pace = Form.Choice<ViewPace>("pace");
        await views.SendAsync(Form.Whole("view"), Form.Text("mailTo"), pace, Form.Key);
        return Done(pace == ViewPace.Never ? "It is sent to nobody." : "It goes with the next week, month or quarter.");
    }
}
