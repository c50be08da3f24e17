using Jugaad.Core;
using Jugaad.Core.EInvoicing;
using Jugaad.Desk.Books;
using Jugaad.Desk.Papers;
using Jugaad.Formats.EInvoices;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Papers;

/// <summary>Opens anybody's e-invoice: what it says, and which rules it breaks. Nothing of it is kept.</summary>
[Needs(Right.See)]
[Posts(Right.See)]
public sealed class ReadEInvoiceModel(EInvoicePapers papers) : DeskPage
{
    public ReadEInvoice? Read { get; private set; }

    public EInvoiceBeside Beside { get; private set; } = null!;

    public IReadOnlyList<Breach> Breaches { get; private set; } = [];

    public string FileName { get; private set; } = "";

    protected override Task<bool> ShowAsync() => Task.FromResult(true);

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync(IFormFile? file)
    {
        if (file is null || file.Length == 0)
            throw new RefusalException("file", "Choose the file of an e-invoice.");
        using var bytes = new MemoryStream();
        await file.CopyToAsync(bytes);
        Read = EInvoiceFiles.Read(bytes.ToArray());
        Beside = await EInvoiceBeside.OfAsync(Read, papers);
        Breaches = EInvoiceFiles.Check(Read);
        FileName = Path.GetFileName(file.FileName);
        return await ShownAsync();
    }
}
