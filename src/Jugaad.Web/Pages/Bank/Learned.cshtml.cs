using Jugaad.Core.Banking;
using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Screens;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.Bank;

/// <summary>What was learned of payers, and taking it back.</summary>
[Needs(Right.See)]
[Posts(Right.Money)]
public sealed class LearnedModel(BankScreens screens, MatchingBench bench) : DeskPage
{
    public IReadOnlyList<(PayerRule Rule, string Of)> Rules { get; private set; } = [];

    protected override async Task<bool> ShowAsync()
    {
        Rules = await screens.RulesAsync();
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostAsync()
    {
        await bench.ForgetAsync(Form.Whole("rule"), Form.Key);
        return Done("Forgotten.");
    }
}
