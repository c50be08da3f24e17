using CsCheck;
using Jugaad.Core.Amounts;
using Jugaad.Core.Matching;
using Jugaad.Core.Trade;
using Xunit.Abstractions;

namespace Jugaad.Core.Tests;

/// <summary>What bank lines are proposed for, how sure that is, and why.</summary>
public sealed class MatchingTests(ITestOutputHelper output)
{
    private static readonly DisplayFormat Format = new('.', "d MMM yyyy");
    private static readonly DateOnly Day = new(2025, 9, 17);
    private static readonly Payer Korall = new(
        1,
        "Korall Boatyard OÜ",
        "",
        [Generators.Eur],
        ["EE471000001020145685"],
        []
    );
    private static readonly Payer Tuule = new(2, "Tuule Charter AS", "Tuule", [Generators.Eur], [], []);

    private static Owed Of(int id, int customer, long open, string number = "", long early = 0, int due = 14) =>
        new(
            id,
            customer,
            number.Length > 0 ? number : $"INV-2025-{id:D4}",
            "",
            Generators.Eur,
            open,
            Day.AddDays(-20),
            Day.AddDays(due - 20),
            early,
            early > 0 ? Day : null
        );

    private static IncomingMoney Money(
        long amount,
        string text = "",
        string reference = "",
        string name = "",
        string account = ""
    ) => new(Day, amount, Generators.Eur, text, reference, name, account);

    private static IReadOnlyList<Proposal> Propose(IncomingMoney money, params Owed[] owed) =>
        new Matcher(owed, [Korall, Tuule], [], Format).Propose(money);

    [Theory]
    [InlineData("539007547034", "RF18539007547034")]
    [InlineData("INV-2025-0041", "RF52INV20250041")]
    public void References_have_the_check_digits_of_iso_11649(string number, string reference)
    {
        StructuredReference.Of(number).ShouldBe(reference);
        StructuredReference.IsValid(StructuredReference.Grouped(reference)).ShouldBeTrue();
    }

    [Fact]
    public void A_reference_that_is_mistyped_is_none() =>
        (
            from digits in Gen.Int[1, 99_999_999]
            from at in Gen.Int[0, 7]
            from step in Gen.Int[1, 9]
            select (digits, at, step)
        ).Sample(x =>
        {
            var signs = StructuredReference.Of($"{x.digits:D8}").ToCharArray();
            signs[4 + x.at] = (char)('0' + ((signs[4 + x.at] - '0' + x.step) % 10));
            StructuredReference.IsValid(new string(signs)).ShouldBeFalse();
        });

    [Theory]
    [InlineData("")]
    [InlineData("RF")]
    [InlineData("RF18")]
    [InlineData("XX18539007547034")]
    [InlineData("RF1A539007547034")]
    public void What_is_no_reference_is_refused(string text) => StructuredReference.IsValid(text).ShouldBeFalse();

    [Fact]
    public void Our_reference_and_the_exact_amount_are_sure()
    {
        var best = Propose(
            Money(12_400, reference: StructuredReference.Of("INV-2025-0007"), name: "Somebody"),
            Of(7, 1, 12_400),
            Of(8, 1, 12_400)
        )[0];
        (best.Certainty, best.CustomerId, best.Parts.Single().ItemId, best.Credit).ShouldBe((Certainty.Sure, 1, 7, 0));
        best.Why.ShouldBe("our reference of INV-2025-0007, and the amount is exact");
    }

    [Fact]
    public void A_reference_from_another_customer_s_money_is_not_sure()
    {
        var best = Propose(
            Money(12_400, reference: StructuredReference.Of("INV-2025-0007"), name: "Tuule Charter"),
            Of(7, 1, 12_400)
        )[0];
        best.Certainty.ShouldBe(Certainty.Likely);
        best.Why.ShouldContain("but the payer looks like Tuule Charter AS");
    }

    [Theory]
    [InlineData("INV-2025-0007")]
    [InlineData("paying inv 2025 0007 thanks")]
    [InlineData("INV20250007")]
    public void A_number_in_the_text_with_a_payer_of_that_name_is_sure(string text)
    {
        var best = Propose(Money(12_400, text, name: "KORALL BOATYARD OU"), Of(7, 1, 12_400), Of(8, 1, 5_000))[0];
        (best.Certainty, best.Parts.Single().ItemId).ShouldBe((Certainty.Sure, 7));
        Propose(Money(12_400, text), Of(7, 1, 12_400))[0].Certainty.ShouldBe(Certainty.Likely);
    }

    [Fact]
    public void A_number_that_could_be_a_mistyped_twin_is_not_sure() =>
        Propose(Money(12_400, "INV-2025-0007", name: "Korall Boatyard"), Of(7, 1, 12_400), Of(8, 1, 12_400))[0]
            .Certainty.ShouldBe(Certainty.Likely);

    [Fact]
    public void A_known_account_and_an_amount_that_can_be_nothing_else_are_sure()
    {
        IncomingMoney fromKorall(long amount) => Money(amount, "September", account: "EE47 1000 0010 2014 5685");
        Propose(fromKorall(12_400), Of(7, 1, 12_400), Of(8, 1, 5_000))[0].Certainty.ShouldBe(Certainty.Sure);
        Propose(fromKorall(12_400), Of(7, 1, 12_400), Of(8, 1, 12_400)).ShouldAllBe(p => p.Certainty != Certainty.Sure);
        Propose(fromKorall(12_400), Of(7, 1, 12_400), Of(8, 1, 5_000), Of(9, 1, 7_400))
            .ShouldAllBe(p => p.Certainty != Certainty.Sure);
        var sum = Propose(fromKorall(17_400), Of(7, 1, 12_400), Of(8, 1, 5_000))[0];
        (sum.Certainty, sum.Parts.Count).ShouldBe((Certainty.Likely, 2));
        sum.Why.ShouldEndWith("INV-2025-0007 and INV-2025-0008 come to exactly this amount together");
    }

    [Fact]
    public void The_early_payment_discount_is_seen_with_and_without_a_number()
    {
        var named = Propose(Money(12_152, "INV-2025-0007", name: "Korall Boatyard"), Of(7, 1, 12_400, early: 248))[0];
        (named.Certainty, named.Parts.Single().Early, named.Parts.Single().Amount).ShouldBe(
            (Certainty.Sure, true, 12_152)
        );
        var unnamed = Propose(Money(12_152, name: "Korall Boatyard"), Of(7, 1, 12_400, early: 248))[0];
        (unnamed.Certainty, unnamed.Parts.Single().Early).ShouldBe((Certainty.Likely, true));
    }

    [Fact]
    public void Too_much_or_too_little_says_so()
    {
        var over = Propose(Money(15_000, "INV-2025-0007", name: "Korall Boatyard"), Of(7, 1, 12_400))[0];
        (over.Credit, over.Parts.Single().Amount, over.Certainty).ShouldBe((2_600, 12_400, Certainty.Likely));
        over.Why.ShouldContain($"{Format.WithCode(2_600, Generators.Eur)} is over and stays as credit");
        Propose(Money(5_000, "INV-2025-0007", name: "Korall Boatyard"), Of(7, 1, 12_400))[0]
            .Why.ShouldContain("a part of what is open");
        Propose(Money(5_000, account: Korall.Accounts[0]))[0].Why.ShouldContain("owes nothing now");

        var crowns = Of(7, 1, 12_400) with { Currency = Currency.Of("SEK") };
        Propose(Money(5_000, account: Korall.Accounts[0]), crowns)[0].Why.ShouldContain("owes nothing in EUR now");
        Propose(Money(5_000, account: Korall.Accounts[0]), crowns, Of(8, 1, 4_000))[0]
            .Why.ShouldContain("all that they owe in EUR is paid");
    }

    [Fact]
    public void A_receipt_entered_by_hand_is_the_same_money()
    {
        var matcher = new Matcher(
            [Of(7, 1, 12_400)],
            [Korall, Tuule],
            [new Expected(5, 1, "RCT-2025-0005", Day.AddDays(-1), Generators.Eur, 9_000, "")],
            Format
        );
        var best = matcher.Propose(Money(9_000, name: "Korall Boatyard"))[0];
        (best.Certainty, best.JoinsReceiptId).ShouldBe((Certainty.Sure, 5));
        matcher.Propose(Money(9_000))[0].Certainty.ShouldBe(Certainty.Likely);
        matcher.Propose(Money(9_000, name: "Tuule Charter")).ShouldAllBe(p => p.JoinsReceiptId == null);
    }

    [Theory]
    [InlineData("Õunapuu Talu OÜ", "ounapuu talu ou")]
    [InlineData("Brännö Båtvarv", "branno batvarv")]
    [InlineData("Łódź Straße Æbler", "lodz strasse aebler")]
    [InlineData("e\u0301te\u0301", "ete")]
    public void Accents_do_not_keep_names_apart(string name, string plain) => PlainLetters.Of(name).ShouldBe(plain);

    [Fact]
    public void A_fee_that_was_kept_of_it_is_seen_and_never_called_sure()
    {
        var named = Propose(Money(12_226, "INV-2025-0007", name: "Card company"), Of(7, 1, 12_400), Of(8, 1, 9_000))[0];
        (named.Certainty, named.Fee, named.Parts.Single().Amount).ShouldBe((Certainty.Likely, 174, 12_400));
        named.Why.ShouldContain("that a bank or card company may have kept");
        var known = Propose(Money(12_226, name: "Korall Boatyard"), Of(7, 1, 12_400)).Single(p => p.Fee > 0);
        known.Certainty.ShouldBe(Certainty.Possible);
        // A discount that was taken a day too late is no fee.
        var late = new Owed(
            7,
            1,
            "INV-2025-0007",
            "",
            Generators.Eur,
            12_400,
            Day.AddDays(-20),
            Day.AddDays(-6),
            248,
            Day.AddDays(-1)
        );
        Propose(Money(12_152, "INV-2025-0007", name: "Korall Boatyard"), late).ShouldAllBe(p => p.Fee == 0);
        // More than a fee would be is a part payment.
        Propose(Money(11_000, "INV-2025-0007"), Of(7, 1, 12_400)).ShouldAllBe(p => p.Fee == 0);
    }

    [Fact]
    public void Money_that_went_out_is_recognised_by_account_or_number_and_amount()
    {
        static GoneOut Gone(int booking, string number, long amount, string account = "", int daysAgo = 2) =>
            new(booking, 1, number, "refund", Day.AddDays(-daysAgo), amount, account);
        var out1 = OutgoingMatcher.Propose(
            Money(5_000, name: "Somebody", account: "EE47 1000 0010 2014 5685"),
            [Gone(1, "REF-2025-0001", 5_000, "EE471000001020145685"), Gone(2, "REF-2025-0002", 5_000)],
            Format
        );
        (out1[0].Certainty, out1[0].JoinsBookingId, out1.Count).ShouldBe((Certainty.Sure, 1, 2));
        out1[0].Why.ShouldContain("to the same account");
        OutgoingMatcher
            .Propose(
                Money(5_000, "ref 2025 0002"),
                [Gone(1, "REF-2025-0001", 5_000), Gone(2, "REF-2025-0002", 5_000)],
                Format
            )[0]
            .JoinsBookingId.ShouldBe(2);
        OutgoingMatcher
            .Propose(Money(5_000), [Gone(1, "REF-2025-0001", 5_000)], Format)
            .Single()
            .Certainty.ShouldBe(Certainty.Likely);
        OutgoingMatcher
            .Propose(
                Money(5_000),
                [Gone(1, "REF-2025-0001", 5_001), Gone(2, "REF-2025-0002", 5_000, daysAgo: 11)],
                Format
            )
            .ShouldBeEmpty();
        // Two refunds of one amount to one account: either may be meant.
        OutgoingMatcher
            .Propose(
                Money(5_000, account: "EE471000001020145685"),
                [Gone(1, "A", 5_000, "EE471000001020145685"), Gone(2, "B", 5_000, "EE471000001020145685")],
                Format
            )
            .ShouldAllBe(p => p.Certainty == Certainty.Likely);
    }

    [Fact]
    public void Nothing_is_made_up_where_nothing_speaks_for_anything() =>
        Propose(Money(777, "hello", name: "Unknown person"), Of(7, 1, 12_400)).ShouldBeEmpty();

    [Fact]
    public void Every_proposal_adds_up_to_the_money_and_takes_no_more_than_is_open() =>
        (from seed in Gen.Int[1, 1_000_000] select seed).Sample(
            seed =>
            {
                var world = new BankLines(seed, 30, 6);
                var matcher = new Matcher(world.Owed, world.Payers, [], Format);
                foreach (var line in world.Lines)
                {
                    foreach (var proposal in matcher.Propose(line.Money))
                    {
                        (proposal.Parts.Sum(p => p.Amount) + proposal.Credit).ShouldBe(
                            line.Money.Amount + proposal.Fee
                        );
                        if (proposal.Fee > 0)
                            proposal.Certainty.ShouldNotBe(Certainty.Sure);
                        proposal.Why.ShouldNotBeEmpty();
                        foreach (var part in proposal.Parts)
                        {
                            var owed = world.Owed.Single(o => o.Id == part.ItemId);
                            owed.CustomerId.ShouldBe(proposal.CustomerId);
                            part.Amount.ShouldBeInRange(1, owed.Open);
                            if (part.Early)
                                part.Amount.ShouldBe(owed.Open - owed.Early);
                        }
                    }

                    matcher
                        .Propose(line.Money)
                        .Select(p => p.Why)
                        .ShouldBe(
                            matcher.Propose(line.Money).Select(p => p.Why),
                            "the same question gets the same answer"
                        );
                }
            },
            iter: 40
        );

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void What_is_called_sure_is_right_on_two_thousand_lines(int seed)
    {
        var world = new BankLines(seed, 2_000);
        var matcher = new Matcher(world.Owed, world.Payers, [], Format);
        var (sure, proposed, unknown, firstRight) = (0, 0, 0, 0);
        foreach (var line in world.Lines)
        {
            var proposals = matcher.Propose(line.Money);
            if (proposals.Count == 0)
            {
                unknown++;
                continue;
            }

            var best = proposals[0];
            var right =
                best.CustomerId == line.CustomerId
                && best.Parts.Select(p => (p.ItemId, p.Amount)).Order().SequenceEqual(line.Parts.Order());
            if (right)
                firstRight++;
            if (best.Certainty != Certainty.Sure)
            {
                proposed++;
                continue;
            }

            sure++;
            right.ShouldBeTrue($"{line.How}: {line.Money} was called sure: {best.Why}");
        }

        output.WriteLine(
            $"sure {sure}, proposed {proposed}, unknown {unknown}; the first proposal is right for {firstRight} of {world.Lines.Count}"
        );
        sure.ShouldBeGreaterThan(600);
        (sure + proposed).ShouldBeGreaterThan(1_800);
    }
}
