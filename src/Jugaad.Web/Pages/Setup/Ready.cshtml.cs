using Jugaad.Core.EInvoicing;
using Jugaad.Core.Taxes;
using Jugaad.Core.Trade;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Setup;

/// <summary>What is still missing before e-invoices can be made, to be mended on the spot.</summary>
[Needs(Right.See)]
[Posts(Right.Masters)]
public sealed class ReadyModel(ReadyDesk desk) : DeskPage
{
    public ReadyView View { get; private set; } = null!;

    /// <summary>Only what was billed in the last year.</summary>
    public bool Year => Request.Query["only"] != "everything";

    /// <summary>Complete ones as well.</summary>
    public bool All => Request.Query["show"] == "all";

    public IReadOnlyList<ReadyRow<Customer>> Customers { get; private set; } = [];

    public IReadOnlyList<ReadyRow<Item>> Items { get; private set; } = [];

    public IReadOnlyList<ReadyRow<TaxCode>> TaxCodes { get; private set; } = [];

    /// <summary>What the directory knows of those shown; nothing unless it was asked for.</summary>
    public IReadOnlyDictionary<int, NetworkReceiver> Found { get; private set; } =
        new Dictionary<int, NetworkReceiver>();

    public IEnumerable<string> Exemptions => CodeLists.Exemptions.Order(StringComparer.Ordinal);

    public int Missing =>
        View.Customers.Count(r => !r.IsComplete)
        + View.Items.Count(r => !r.IsComplete)
        + View.TaxCodes.Count(r => !r.IsComplete)
        + (View.Business.IsComplete ? 0 : 1);

    public string With(bool year, bool all) =>
        $"/setup/ready?only={(year ? "year" : "everything")}&show={(all ? "all" : "lacking")}";

    public string Told(int complete, int of) => complete == of ? $"all {of} complete" : $"{complete} of {of} complete";

    protected override async Task<bool> ShowAsync()
    {
        View = await desk.ViewAsync(Year ? Today.AddYears(-1) : null);
        Customers = Shown(View.Customers);
        Items = Shown(View.Items);
        TaxCodes = Shown(View.TaxCodes);
        if (Request.Query["look"] == "up")
            Found = await desk.LookUpAsync(Customers.Select(c => c.Of));
        return true;
    }

    private List<ReadyRow<T>> Shown<T>(IReadOnlyList<ReadyRow<T>> rows) => [.. rows.Where(r => All || !r.IsComplete)];

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        var form = Form;
        var changed = await desk.MendAsync(
            [
                .. form.Rows("customers")
                    .Select(id => new CustomerMend(
                        id,
                        form.Whole($"customers[{id}].version"),
                        new(form.Text($"customers[{id}].electronicScheme"), form.Text($"customers[{id}].electronic")),
                        form.Text($"customers[{id}].buyerReference")
                    )),
            ],
            [
                .. form.Rows("items")
                    .Select(id => new ItemMend(
                        id,
                        form.Whole($"items[{id}].version"),
                        form.Text($"items[{id}].classification"),
                        form.Text($"items[{id}].classificationList")
                    )),
            ],
            // Tax codes are set up by whoever may do that; others see them.
            May(Right.Setup)
                ? [.. form.Rows("codes").Select(id => new TaxCodeMend(id, form.Text($"codes[{id}].exemptionCode")))]
                : [],
            form.Key
        );
        Say(
            changed == 0 ? "Nothing was changed."
            : changed == 1 ? "One is kept."
            : $"{changed} are kept."
        );
        return Redirect(With(Year, All));
    }
}
