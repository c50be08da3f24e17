using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Web.Pages.Setup;

/// <summary>
/// What a rate that begins on a day touches, and by how much; and what was issued before a rate or a registration was
/// put right.
/// </summary>
[Needs(Right.See)]
public sealed class ChangeModel(BooksContext db, RateImpact impact, IssuedOtherwise issued) : DeskPage
{
    public DateOnly From { get; private set; }

    public string Heading { get; private set; } = "";

    public string Words { get; private set; } = "";

    public IReadOnlyList<TouchedDocument> Touched { get; private set; } = [];

    public bool More { get; private set; }

    public IReadOnlyList<TaxedOtherwise> Issued { get; private set; } = [];

    public bool MoreIssued { get; private set; }

    /// <summary>Whether it is about a rate; else about a registration.</summary>
    public bool IsRate { get; private set; }

    protected override async Task<bool> ShowAsync()
    {
        if (int.TryParse(Request.Query["authority"], out var whose))
        {
            if (await db.TaxAuthorities.AsNoTracking().SingleOrDefaultAsync(a => a.Id == whose) is not { } authority)
                return false;
            Heading = authority.RegisteredFrom is { } day
                ? $"{authority.Name}, registered from {Day(day)}"
                : $"{authority.Name}, not registered";
            (Issued, MoreIssued) = await issued.OfAsync(c => c.Authority?.Id == whose, DateOnly.MinValue);
            return true;
        }

        if (!int.TryParse(Request.Query["tax"], out var id) || AskedDay("from") is not { } from)
            return false;
        var component = await db.TaxComponents.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id);
        var rate = component?.Rates.FirstOrDefault(r => r.From == from);
        if (component is null || rate is null)
            return false;
        var before = component.RateOn(from.AddDays(-1));
        (From, IsRate) = (from, true);
        Heading = $"{component.Name}, {Format.Percent(rate.Percent)} from {Day(from)}";
        Words = before is null ? "its first rate" : $"{Format.Percent(before.Percent)} until then";
        (Touched, More) = await impact.OfAsync(id, from);
        (Issued, MoreIssued) = await issued.OfAsync(c => c.Id == id, from);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();
}
