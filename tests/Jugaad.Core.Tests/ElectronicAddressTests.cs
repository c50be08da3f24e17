using System.Text.RegularExpressions;
using CsCheck;
using Jugaad.Core.EInvoicing;
using Jugaad.Core.Trade;

namespace Jugaad.Core.Tests;

/// <summary>Electronic addresses, the lists that they and exemptions come from, and what receivers may answer.</summary>
public sealed class ElectronicAddressTests
{
    private static string? Problem(string scheme, string value)
    {
        var refusals = new Refusals();
        new ElectronicAddress(scheme, value).Check(refusals);
        try
        {
            refusals.ThrowIfAny();
            return null;
        }
        catch (RefusalException refused)
        {
            return refused.Refusals[0].Field;
        }
    }

    [Theory]
    [InlineData("0088", "7300010000001", null)]
    [InlineData("0088", "730 0010 000001", null)]
    [InlineData("0088", "7300010000002", "electronic")]
    [InlineData("0088", "730001000000", "electronic")]
    [InlineData("0191", "14730926", null)]
    [InlineData("", "14730926", "electronicScheme")]
    [InlineData("XXXX", "14730926", "electronicScheme")]
    [InlineData("0191", "1473<b>", "electronic")]
    [InlineData("EM", "office@loft.example", null)]
    [InlineData("EM", "office", "email")]
    [InlineData("0191", "", null)]
    public void A_number_is_one_of_its_scheme(string scheme, string value, string? field) =>
        (
            Problem(scheme, value) is { } wrong
                ? wrong is "electronic" or "electronicScheme"
                    ? wrong
                    : "email"
                : null
        ).ShouldBe(field == "email" ? "electronic" : field);

    [Fact]
    public void The_usual_ones_are_in_the_lists()
    {
        ElectronicAddress.Usual.ShouldAllBe(u => CodeLists.ElectronicSchemes.Contains(u.Code));
        CodeLists.Classifications.ShouldAllBe(c => CodeLists.IsClassificationList(c.Code));
    }

    [Fact]
    public void Codes_of_the_lists_are_whole()
    {
        CodeLists.Exemptions.ShouldAllBe(c => c.StartsWith("VATEX-", StringComparison.Ordinal) && c.Length > 8);
        CodeLists.Exemptions.ShouldContain("VATEX-EU-132-1I");
        CodeLists.Exemptions.ShouldContain("VATEX-EU-132-1D");
        CodeLists.Kinds.ShouldAllBe(k => k.Contains('/') && !k.EndsWith('-'));
        CodeLists.Kinds.Count.ShouldBe(6);
    }

    [Fact]
    public void Whatever_receivers_say_what_counts_is_work_then_an_end() =>
        Gen.Enum<AnswerKind>()
            .List[0, 12]
            .Sample(said =>
            {
                var counted = "";
                AnswerKind? now = null;
                foreach (var kind in said)
                {
                    var longer = counted + kind.ToString()[0];
                    Answers.CanFollow(now, kind).ShouldBe(Regex.IsMatch(longer, "^I?(T?P?|R)$"), longer);
                    if (!Answers.CanFollow(now, kind))
                        continue;
                    (counted, now) = (longer, kind);
                }
            });

    [Fact]
    public void What_lacks_something_says_which_term()
    {
        var museum = new Customer(
            new CustomerDetails
            {
                Code = "M",
                Name = "Museum",
                Kind = CustomerKind.PublicBody,
                Currency = "EUR",
                Address = new Address("Quay 1", "", "Tallinn", "EE"),
            }
        );
        Readiness.Of(museum, "EE").Select(l => l.Term).ShouldBe(["BT-53", "BT-49", "BT-10"]);
        museum.Describe(
            museum.Details() with
            {
                Electronic = new("0191", "90006789"),
                BuyerReference = "K-1",
                Address = new Address("Quay 1", "10415", "Tallinn", "EE"),
            }
        );
        Readiness.Of(museum, "EE").ShouldBeEmpty();
        Should
            .Throw<RefusalException>(() =>
                museum.Describe(
                    museum.Details() with
                    {
                        Electronic = ElectronicAddress.None,
                        Takes = PaperForm.EInvoice,
                    }
                )
            )
            .Refusals.Single()
            .Field.ShouldBe("electronic");
    }
}
