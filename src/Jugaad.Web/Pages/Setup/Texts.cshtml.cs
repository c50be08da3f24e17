using Jugaad.Core.Documents;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Post;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>What mails and messages say, by kind and language, with a preview on a real document.</summary>
[Needs(Right.See)]
[Posts(Right.Setup)]
public sealed class TextsModel(BooksContext db, MailWordsDesk desk, MailComposing compose, Wordings wordings) : DeskPage
{
    public MailText Text { get; private set; }

    public string Language { get; private set; } = "";

    public (string Subject, string Body) Words { get; private set; }

    public bool IsOwn { get; private set; }

    /// <summary>The document that the preview is filled from; null where there is none yet.</summary>
    public Document? Example { get; private set; }

    public (string Subject, string Body)? Preview { get; private set; }

    public static IEnumerable<(string, string)> TextChoices =>
        Enum.GetValues<MailText>().Select(t => (t.ToString(), WordOf(t)));

    public IReadOnlyList<(string, string)> LanguageChoices { get; private set; } = [];

    public static string WordOf(MailText text) =>
        text switch
        {
            MailText.DeliveryNote => "delivery note",
            MailText.CreditNote => "credit note",
            MailText.Receipt => "confirmation of a receipt",
            MailText.Message => "message to a telephone",
            MailText.GentleReminder => "first reminder",
            MailText.FirmReminder => "second reminder",
            MailText.LastReminder => "last reminder",
            MailText.DueSoon => "due soon",
            MailText.FinalNotice => "final notice",
            MailText.Statement => "statement of account",
            MailText.ReminderMessage => "reminder to a telephone",
            _ => text.ToString().ToLowerInvariant(),
        };

    protected override async Task<bool> ShowAsync()
    {
        Text = Enum.TryParse<MailText>(Request.Query["text"], out var text) ? text : MailText.Invoice;
        Language = Request.Query["language"].ToString();
        LanguageChoices = [("", "every language"), .. await wordings.LanguagesAsync()];
        if (LanguageChoices.All(l => l.Item1 != Language))
            Language = "";
        var own = await db.MailWords.AsNoTracking().SingleOrDefaultAsync(w => w.Text == Text && w.Language == Language);
        IsOwn = own is not null;
        var talk = await compose.WordsAsync(Text, Language);
        Words = own is null ? talk.Text : (own.Subject, own.Body);
        var kind = Text switch
        {
            MailText.Quote => DocumentKind.Quote,
            MailText.Order => DocumentKind.Order,
            MailText.DeliveryNote => DocumentKind.DeliveryNote,
            MailText.CreditNote => DocumentKind.CreditNote,
            _ => DocumentKind.Invoice,
        };
        Example = await db
            .Documents.AsNoTracking()
            .Include(d => d.Customer)
            .Where(d => d.Kind == kind && d.Number != null)
            .OrderByDescending(d => d.Id)
            .FirstOrDefaultAsync();
        if (Example is not null && !Request.HasFormContentType)
            Preview = MailTexts.Write(Words, await FieldsAsync(Example.Id));
        return true;
    }

    /// <summary>Of the example, with something where a document says nothing.</summary>
    private async Task<MailFields> FieldsAsync(int id)
    {
        var talk = await compose.WordsAsync(Text, Language);
        var item = new AskedItem(
            0,
            "INV-0001",
            Today.AddDays(-20),
            Today.AddDays(-6),
            123_45,
            Business!.HomeCurrency,
            null
        );
        return await compose.FieldsAsync(id, talk) with
        {
            Items = talk.Line(item, Today),
            Overdue = talk.Format.WithCode(item.Asked, item.Currency),
        };
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        if (!May(Right.Setup))
            return StatusCode(StatusCodes.Status403Forbidden);
        await ShowAsync();
        var typed = (form: Form.Text("subject"), body: Form.Text("body"));
        if (Form.Text("do") == "show" && Example is not null)
        {
            Words = typed;
            Preview = MailTexts.Write(typed, await FieldsAsync(Example.Id));
            return Page();
        }

        await desk.WriteAsync(Text, Language, typed.form, typed.body, Form.Key);
        return Back("Saved. New mails begin with these words.");
    }

    public async Task<IActionResult> OnPostShippedAsync()
    {
        await ShowAsync();
        await desk.ForgetAsync(Text, Language, Form.Key);
        return Back("The words that ship are used again.");
    }

    private RedirectResult Back(string said)
    {
        Say(said);
        return Redirect($"/setup/texts?text={Text}&language={Language}");
    }
}
