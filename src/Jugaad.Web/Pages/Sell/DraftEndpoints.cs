using Jugaad.Core.Amounts;
using Jugaad.Core.Documents;
using Jugaad.Core.Taxes;
using Jugaad.Desk.Books;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Setup;
using Jugaad.Web.Shell;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Sell;

/// <summary>What the editor asks of the server: figures while typing, and saving.</summary>
internal static class DraftEndpoints
{
    internal static void MapDrafts(this RouteGroupBuilder api)
    {
        api.MapPost("/drafts/figures", FiguresAsync).Needs(Right.Draft);
        api.MapPost("/drafts/discount-to-lines", DiscountToLinesAsync).Needs(Right.Draft);
        api.MapPost("/drafts", SaveAsync).Needs(Right.Draft);
        api.MapPost("/drafts/taxes", TaxesAsync).Needs(Right.Draft);
        api.MapPost(
                "/drafts/{id:int}/files",
                async (int id, IFormFile file, Files files, CancellationToken stop) =>
                {
                    if (file.Length > DocumentFile.MostBytes)
                        throw new Core.RefusalException(
                            "file",
                            "The file is larger than 10 MB. Make it smaller, or split it."
                        );
                    using var copy = new MemoryStream();
                    await file.CopyToAsync(copy, stop);
                    return new { id = await files.AddAsync(id, file.FileName, copy.ToArray(), stop) };
                }
            )
            .Needs(Right.Draft)
            .DisableAntiforgery();
    }

    /// <summary>Which code each line gets, and one for charges.</summary>
    private static async Task<object> TaxesAsync(
        DraftForm form,
        TaxRulesDesk rules,
        BooksHead head,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var today = await head.TodayAsync(stop);
        var day = format.FindDay(form.TaxDate, today) ?? format.FindDay(form.Date, today) ?? today;
        var answers = await rules.DecideAsync(
            new TaxQuestion(
                form.CustomerId,
                form.PlaceId is >= 0 ? form.PlaceId : null,
                day,
                [.. form.Lines.Select(l => l.ItemId), null]
            ),
            stop
        );
        return new
        {
            lines = answers.Take(answers.Count - 1).Select(t => new { taxCodeId = t.TaxCodeId, why = t.Why }),
            charge = new { taxCodeId = answers[^1].TaxCodeId, why = answers[^1].Why },
        };
    }

    /// <summary>Where a code is taxed otherwise than when the person last saw it, from what to what.</summary>
    private static IEnumerable<Core.Refusal> ChangesOf(DraftForm form, Document document, DisplayFormat format) =>
        document
            .Lines.Select(l => (l.TaxCodeId, l.TaxCode, l.Treatment))
            .Concat(document.Charges.Select(c => (c.TaxCodeId, c.TaxCode, c.Treatment)))
            .Distinct()
            .Where(t => form.Seen?.TryGetValue(t.TaxCodeId, out var seen) == true && seen != t.Treatment)
            .Select(t => new Core.Refusal(
                "taxDate",
                $"On {format.Date(document.TaxDate ?? document.Date)} {t.TaxCode} is {Treatment.Parse(t.Treatment).Rates}; it was {Treatment.Parse(form.Seen![t.TaxCodeId]).Rates} before the date moved. The figures follow."
            ));

    /// <summary>While one types, a cell that cannot be read yet is an answer like any other.</summary>
    private static async Task<object> FiguresAsync(
        DraftForm form,
        Drafts drafts,
        DraftWarnings warnings,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        try
        {
            return await ComputeAsync(form, drafts, warnings, db, head, stop);
        }
        catch (Core.RefusalException refused)
        {
            var format = (await head.BusinessAsync(stop)).Format;
            return new
            {
                refusals = refused.Refusals.Select(r => new { field = r.Field, message = r.Phrase.In(format) }),
            };
        }
    }

    private static async Task<object> ComputeAsync(
        DraftForm form,
        Drafts drafts,
        DraftWarnings warnings,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var format = business.Format;
        var currency = await db.BilledInAsync(form.CustomerId, form.Currency, business.HomeCurrency, stop);
        var document = await drafts.TryOutAsync(
            form.ReadKind(),
            form.Read(format, currency, await head.TodayAsync(stop)),
            form.Id,
            stop
        );
        var second = ChangesOf(form, document, format).Concat(await warnings.WhileTypingAsync(document, form.Id, stop));
        string Amount(long minor) => format.Amount(minor, currency);
        return new
        {
            currency = currency.Code,
            treatments = document
                .Lines.Select(l => (l.TaxCodeId, l.Treatment))
                .Concat(document.Charges.Select(c => (c.TaxCodeId, c.Treatment)))
                .Distinct()
                .ToDictionary(t => t.TaxCodeId, t => t.Treatment),
            discounts = document
                .Lines.OrderBy(l => l.Position)
                .Select(l =>
                    l.Shares ? DraftForm.DiscountCell(l.DiscountPercent, l.DiscountAmount, currency, format) : null
                ),
            lines = AmountsOf(document, Amount),
            subtotal = Amount(document.Subtotal),
            discount = document.Discount == 0 ? "" : Amount(-document.Discount),
            charges = document.ChargesTotal == 0 ? "" : Amount(document.ChargesTotal),
            taxes = document
                .Taxes.OrderBy(t => t.Position)
                .Select(t => new
                {
                    label = t.Component.Length > 0
                        ? $"{t.Component} {format.Percent(t.Percent)} on {Amount(t.Taxable)}"
                        : $"{t.Category.Word()}, on {Amount(t.Taxable)}",
                    tax = Amount(t.Tax),
                }),
            net = Amount(document.Net),
            tax = Amount(document.Tax),
            total = Amount(document.Payable),
            wanted = form.Discount?.TrimStart().StartsWith("to ", StringComparison.OrdinalIgnoreCase) == true
                ? Amount(document.Discount)
                : "",
            due = document.DueDate is { } due ? format.Date(due) : "",
            terms = document.TermsText,
            rate = currency.Equals(business.HomeCurrency)
                ? ""
                : $"{document.ExchangeRate.Words(currency, business.HomeCurrency, format.Exact)}: {format.WithCode(HomeTotal(document, business.HomeCurrency), business.HomeCurrency)}{ToldWords(document, business.HomeCurrency, format)}",
            warnings = second.Select(w => new { field = w.Field, message = w.Phrase.In(format) }),
        };
    }

    /// <summary>What the taxes are at the rates of authorities that have their own.</summary>
    private static string ToldWords(Document document, Currency home, DisplayFormat format) =>
        string.Concat(
            document
                .Taxes.Where(t => t.ToldRate is not null && t.Tax != 0)
                .GroupBy(t => t.ToldRate!.Value)
                .Select(g =>
                    $"; tax at the authority's {g.Key.Words(document.Currency, home, format.Exact)}: {format.WithCode(g.Sum(t => t.HomeTax(document, home)), home)}"
                )
        );

    private static long HomeTotal(Document document, Currency home) =>
        Jugaad.Core.Exchange.HomeAmount.Of(document.Payable, document.Currency, document.ExchangeRate, home);

    /// <summary>
    /// The document's discount as one of each line, with which the total stays as it is: a percentage as such where
    /// that comes to the same, else each line's share in money.
    /// </summary>
    private static async Task<object> DiscountToLinesAsync(
        DraftForm form,
        Drafts drafts,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var format = (await head.BusinessAsync(stop)).Format;
        var currency = await db.BilledInAsync(
            form.CustomerId,
            form.Currency,
            (await head.BusinessAsync(stop)).HomeCurrency,
            stop
        );
        var content = form.Read(format, currency, await head.TodayAsync(stop));
        var document = await drafts.TryOutAsync(form.ReadKind(), content, form.Id, stop);
        var lines = document.Lines.OrderBy(l => l.Position).ToList();
        if (content.DiscountPercent is { } percent && lines.TrueForAll(l => l.Discount == 0))
        {
            var byLine = content with
            {
                DiscountPercent = null,
                Lines =
                [
                    .. content.Lines.Select(l =>
                        l.Role.HasFigures() ? l with { DiscountPercent = percent, Shares = false } : l
                    ),
                ],
            };
            if ((await drafts.TryOutAsync(form.ReadKind(), byLine, form.Id, stop)).Total == document.Total)
                return new
                {
                    discounts = lines.ConvertAll(l => l.Role.HasFigures() ? format.Typed(percent) + "%" : null),
                };
        }

        return new
        {
            discounts = lines.ConvertAll(l =>
                l.Counts && l.Extension != l.Base ? format.Typed(l.Extension - l.Base, currency)
                : l.Role.HasFigures() ? ""
                : null
            ),
        };
    }

    /// <summary>
    /// What stands in the last cell of each line: nothing for words, the sum for sections and subtotals, brackets for
    /// what is not chosen.
    /// </summary>
    private static IEnumerable<string> AmountsOf(Document document, Func<long, string> amount)
    {
        var ordered = document.Lines.OrderBy(l => l.Position).ToList();
        var subtotals = Subtotals.Of(ordered);
        return ordered.Select(
            (l, i) =>
                !l.Role.HasFigures()
                    ? subtotals[i] is { } sum
                        ? amount(sum)
                        : ""
                    : l.Counts
                        ? amount(l.Amount)
                        : $"({amount(l.Amount)})"
        );
    }

    private static async Task<IResult> SaveAsync(
        DraftForm form,
        Drafts drafts,
        BooksContext db,
        BooksHead head,
        CancellationToken stop
    )
    {
        var business = await head.BusinessAsync(stop);
        var content = form.Read(
            business.Format,
            await db.BilledInAsync(form.CustomerId, form.Currency, business.HomeCurrency, stop),
            await head.TodayAsync(stop)
        );
        try
        {
            var id = await drafts.SaveAsync(
                new DraftToSave(form.Id, form.ReadKind(), form.Version, content, null, form.FormKey),
                stop
            );
            var version = await db.Documents.Where(d => d.Id == id).Select(d => d.Version).SingleAsync(stop);
            return Results.Json(new { id, version });
        }
        catch (DraftConflictException conflict)
        {
            return Results.Json(
                new
                {
                    conflict = true,
                    version = conflict.Version,
                    changes = conflict.Changes,
                },
                statusCode: StatusCodes.Status409Conflict
            );
        }
    }
}
