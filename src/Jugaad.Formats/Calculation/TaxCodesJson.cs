using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Taxes;

namespace Jugaad.Formats.Calculation;

/// <summary>Tax codes with their components and dated rates, read from JSON.</summary>
internal static class TaxCodesJson
{
    internal static Dictionary<string, TaxCode> Read(JsonReader document)
    {
        var codes = new Dictionary<string, TaxCode>();
        foreach (var code in document.Each("taxCodes"))
        {
            code.Only("code", "name", "category", "components");
            var name = code.Text("code");
            var category = TaxCategories.Of(code.Text("category"), code.Place("category"));
            var parts = code.Each("components")
                .Select((component, i) => new TaxCodePart(i, Component(component), component.Flag("compound")));
            if (!codes.TryAdd(name, new TaxCode(name, name, category, null, parts.ToList())))
                throw new RefusalException(
                    code.Place("code"),
                    $"The tax code “{name}” is there twice. Keep one of them."
                );
        }

        return codes;
    }

    private static TaxComponent Component(JsonReader component)
    {
        component.Only("name", "compound", "rates");
        var rates = new List<TaxRate>();
        foreach (var rate in component.Each("rates"))
        {
            rate.Only("from", "percent");
            var from = rate.Date("from");
            var percent = PlainDecimal.Parse(rate.Text("percent"), Limits.PercentDecimals, rate.Place("percent"));
            if (percent is < 0 or > 100)
                throw new RefusalException(
                    rate.Place("percent"),
                    $"A rate of {PlainDecimal.Text(percent)} % cannot be. Give 0 to 100."
                );
            if (rates.Exists(r => r.From == from))
                throw new RefusalException(
                    rate.Place("from"),
                    $"A rate begins on {from:yyyy-MM-dd} already. Keep one of them."
                );
            rates.Add(new TaxRate(from, percent));
        }

        return new TaxComponent(component.Text("name"), null, rates);
    }
}
