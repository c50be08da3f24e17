using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Jugaad.Core.Returns;
using Jugaad.Desk.Filing;

namespace Jugaad.Outside;

/// <summary>
/// Stands in for the desk of a tax authority: it takes a return that is whole, with a receipt that is the same for the
/// same return, and says of any other what is wrong with it.
/// </summary>
public sealed class AuthorityStandIn : IAuthorityDesk
{
    public Task<AuthorityAnswer> HandInAsync(ReturnThen filed, CancellationToken stop)
    {
        var reasons = Wrong(filed).ToList();
        return Task.FromResult(
            reasons.Count > 0 ? new AuthorityAnswer("", reasons) : new AuthorityAnswer(ReceiptOf(filed), [])
        );
    }

    private static IEnumerable<string> Wrong(ReturnThen filed)
    {
        if (filed.Authority.OurNumber.Length == 0)
            yield return "The return does not say who files it: give your number with this authority under Setup, taxes.";
        if (filed.Filed is not { } told)
        {
            yield return "The return is not filed in the books.";
            yield break;
        }

        if (told.Tax != filed.Rows.Sum(r => r.Tax))
            yield return "The tax is not what the rows add up to.";
        if (!told.Boxes.SequenceEqual(BoxFigure.Of(told.BoxSet, filed.Rows, filed.Home, told.Typed)))
            yield return "The boxes do not follow from the rows.";
    }

    private static string ReceiptOf(ReturnThen filed)
    {
        var said = string.Create(
            CultureInfo.InvariantCulture,
            $"{filed.Authority.OurNumber} {filed.From:O} {filed.To:O} {filed.Filed!.Amendment} {filed.Filed.Owed} {string.Join(';', filed.Rows.Select(r => $"{r.Number}:{r.Day:O}:{r.Taxable}:{r.Tax}"))}"
        );
        return $"TD-{Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(said)))[..10]}";
    }
}
