using System.Globalization;
using Jugaad.Core;
using Jugaad.Core.Amounts;

namespace Jugaad.Web.Shell;

/// <summary>Reads a form's fields; whatever cannot be read is gathered and refused together.</summary>
public sealed class TypedForm(IFormCollection form, DisplayFormat format, DateOnly today)
{
    private readonly Refusals _refusals = new();

    /// <summary>The key that makes sending the form twice harmless.</summary>
    public string Key => Text("formKey");

    public string Text(string field) => form[field].ToString();

    public bool Ticked(string field) => form.ContainsKey(field);

    public int Whole(string field) =>
        int.TryParse(Text(field), NumberStyles.Integer, CultureInfo.InvariantCulture, out var value) ? value : 0;

    /// <summary>The fields of an address, which have the same names wherever one is typed.</summary>
    public Core.Trade.Address Address() =>
        new(Text("street"), Text("postalCode"), Text("city"), Text("country"), Text("region"));

    public int? Id(string field) => Whole(field) is > 0 and var id ? id : null;

    public DateOnly Date(string field, string missing)
    {
        if (OptionalDate(field) is { } date)
            return date;
        if (Text(field).Trim().Length == 0)
            _refusals.Add(field, missing);
        return default;
    }

    /// <summary>A day as people type it.</summary>
    public DateOnly? OptionalDate(string field)
    {
        var text = Text(field).Trim();
        if (text.Length == 0)
            return null;
        DateOnly? date = null;
        _refusals.Try(() => date = format.ReadDay(text, today, field));
        return date;
    }

    /// <summary>Minor units; 0 where nothing was typed.</summary>
    public long Amount(string field, Currency currency) => OptionalAmount(field, currency) ?? 0;

    public long? OptionalAmount(string field, Currency currency)
    {
        if (Text(field).Trim().Length == 0)
            return null;
        long? amount = null;
        _refusals.Try(() => amount = format.ReadAmount(Text(field), currency, field));
        return amount;
    }

    public decimal Figure(string field, int decimals)
    {
        var value = 0m;
        if (Text(field).Trim().Length > 0)
            _refusals.Try(() => value = format.Read(Text(field), decimals, field));
        return value;
    }

    public T Choice<T>(string field)
        where T : struct, Enum =>
        Enum.TryParse<T>(Text(field), out var value) && Enum.IsDefined(value) ? value : default;

    public IEnumerable<string> Fields => form.Keys;

    /// <summary>The rows of a part that repeats, such as <c>contacts[0].name</c>: their numbers, in order.</summary>
    public IReadOnlyList<int> Rows(string part) => RowsOf(form, part);

    internal static IReadOnlyList<int> RowsOf(IFormCollection form, string part) =>
        form
            .Keys.Where(k =>
                k.StartsWith(part + "[", StringComparison.Ordinal) && k.Contains("].", StringComparison.Ordinal)
            )
            .Select(k =>
                int.TryParse(
                    k.AsSpan(part.Length + 1, k.IndexOf("].", StringComparison.Ordinal) - part.Length - 1),
                    NumberStyles.None,
                    CultureInfo.InvariantCulture,
                    out var n
                )
                && n < 1000
                    ? n
                    : -1
            )
            .Where(n => n >= 0)
            .Distinct()
            .Order()
            .ToList();

    /// <exception cref="RefusalException">When anything could not be read.</exception>
    public void ThrowIfAny() => _refusals.ThrowIfAny();
}
