using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Core.Documents;

/// <summary>
/// How each line and charge of a draft is taxed: by its code on the tax date, or as what it was made from.
/// </summary>
internal sealed class DraftTaxes
{
    private readonly DraftContent _content;
    private readonly DraftMasters _masters;
    private readonly List<Treatment?> _lines;
    private readonly List<Treatment?> _charges;

    internal DraftTaxes(DraftContent content, DraftMasters masters, Refusals refusals)
    {
        (_content, _masters) = (content, masters);
        var day = content.TaxDate ?? content.Date;
        _lines = content
            .Lines.Select(
                (l, i) =>
                    !l.Role.HasFigures()
                        ? Treatment.OutOfScope
                        : OriginOf(l)?.Kept
                            ?? DraftCheck.Tax(refusals, masters, l.TaxCodeId, day, $"lines[{i}].taxCode")
            )
            .ToList();
        _charges = content
            .Charges.Select(
                (c, i) =>
                    OriginOf(c)?.Kept ?? DraftCheck.Tax(refusals, masters, c.TaxCodeId, day, $"charges[{i}].taxCode")
            )
            .ToList();
    }

    internal Treatment OfLine(int i) => _lines[i]!;

    internal Treatment OfCharge(int i) => _charges[i]!;

    internal string CodeOf(DraftLine line) =>
        line.Role.HasFigures() ? _masters.TaxCodes.GetValueOrDefault(line.TaxCodeId)?.Code ?? "" : "";

    /// <summary>How a line is taxed besides by its treatment: what it goes on from, and what it takes back.</summary>
    internal LineTaxes LineTaxesOf(int i)
    {
        var line = _content.Lines[i];
        var origin = OriginOf(line);
        return new LineTaxes(
            origin is null || origin.Kept is not null || line.Role is not (LineRole.Stage or LineRole.Item)
                ? BilledBefore.Nothing
                : BeforeLine(i, line, origin),
            origin?.TakesBack
        );
    }

    internal TakenBack? TakenBackByCharge(int i) => OriginOf(_content.Charges[i])?.TakesBack;

    /// <summary>
    /// What was billed before with the same tax, which the tax of a part goes on from. Where tax is rounded once for
    /// each treatment, that is all that earlier documents billed of the source with it, noted on the first line that
    /// has it here.
    /// </summary>
    private BilledBefore BeforeLine(int i, DraftLine line, LineOrigin origin)
    {
        var treatment = OfLine(i).ToString();
        var same = _masters.EarlierParts.Where(s => s.SourceId == origin.SourceId && s.Treatment == treatment);
        var byLine = _masters.TaxRounding == TaxRounding.Line;
        if (byLine)
            same = same.Where(s => line.FromChargeId is { } charge ? s.ChargeId == charge : s.LineId == origin.LineId);
        bool IsSame(DraftLine other, int k) =>
            other.Role is LineRole.Stage or LineRole.Item
            && other.Counts
            && OriginOf(other) is { Kept: null } o
            && o.SourceId == origin.SourceId
            && (
                byLine
                    ? o.LineId == origin.LineId && other.FromChargeId == line.FromChargeId
                    : OfLine(k).ToString() == treatment
            );
        var isFirst = !_content.Lines.Take(i).Where(IsSame).Any();
        return isFirst && line.Counts
            ? BilledBefore.By(same, OfLine(i), _content.PricesIncludeTax)
            : BilledBefore.Nothing;
    }

    /// <summary>
    /// The reasons of the codes that are used, one a line; none of a code whose tax is not charged yet.
    /// </summary>
    internal string Words() =>
        string.Join(
            '\n',
            _content
                .Lines.Where(l => l.Role.HasFigures())
                .Select(l => l.TaxCodeId)
                .Zip(_content.Lines.Zip(_lines).Where(p => p.First.Role.HasFigures()).Select(p => p.Second))
                .Concat(_content.Charges.Select(c => c.TaxCodeId).Zip(_charges))
                .Where(p => _masters.TaxCodes.TryGetValue(p.First, out var code) && code.Category == p.Second!.Category)
                .Where(_ => _masters.Standing.IsRegisteredOn(_content.TaxDate ?? _content.Date))
                .Select(p => _masters.TaxReasons.GetValueOrDefault(p.First) ?? _masters.TaxCodes[p.First].Reason)
                .OfType<string>()
                .Distinct()
                .Concat(Certificate())
        );

    /// <summary>Whoever buys without tax under a certificate has its number on the paper.</summary>
    private IEnumerable<string> Certificate()
    {
        var exempt = _lines
            .Concat(_charges)
            .Any(t => t!.Category is TaxCategory.Exempt or TaxCategory.Zero && t.Parts.All(p => p.Percent == 0));
        if (exempt && _masters.Customer.CertificateOn(_content.TaxDate ?? _content.Date) is { } certificate)
            yield return $"Exemption certificate {certificate.Number}.";
    }

    private LineOrigin? OriginOf(DraftLine line) =>
        line.FromChargeId is { } charge ? _masters.ChargeOrigins.GetValueOrDefault(charge)
        : line.FromLineId is { } from ? _masters.Origins.GetValueOrDefault(from)
        : null;

    private LineOrigin? OriginOf(DraftCharge charge) =>
        charge.FromChargeId is { } from ? _masters.ChargeOrigins.GetValueOrDefault(from) : null;
}
