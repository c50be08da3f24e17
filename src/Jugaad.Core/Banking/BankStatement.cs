using Jugaad.Core.Amounts;

namespace Jugaad.Core.Banking;

/// <summary>A statement that was taken in. Amounts are minor units of <see cref="Currency"/>.</summary>
public sealed class BankStatement
{
    private readonly List<BankLine> _lines = [];

    private BankStatement() => Currency = null!;

    /// <param name="remarks">What was remarkable when it was taken in, one a line.</param>
    public BankStatement(int accountId, StatementFile file, string fileName, DateOnly takenIn, string remarks)
    {
        (AccountId, Currency, Number, FileName, TakenIn, Remarks) = (
            accountId,
            file.Currency,
            file.Number,
            fileName,
            takenIn,
            remarks
        );
        (Opening, Closing, Format) = (file.Opening, file.Closing, file.Format);
        From = file.From ?? (file.Lines.Count > 0 ? file.Lines.Min(l => l.Date) : takenIn);
        Until = file.Until ?? (file.Lines.Count > 0 ? file.Lines.Max(l => l.Date) : takenIn);
    }

    public int Id { get; private set; }

    /// <summary>The ledger account of the money.</summary>
    public int AccountId { get; private set; }

    public Currency Currency { get; private set; }

    /// <summary>As the bank counts its statements; empty where it does not.</summary>
    public string Number { get; private set; } = "";

    public DateOnly From { get; private set; }

    public DateOnly Until { get; private set; }

    public long? Opening { get; private set; }

    public long? Closing { get; private set; }

    public string FileName { get; private set; } = "";

    /// <inheritdoc cref="StatementFile.Format"/>
    public string Format { get; private set; } = "";

    public DateOnly TakenIn { get; private set; }

    public string Remarks { get; private set; } = "";

    public IReadOnlyList<BankLine> Lines => _lines;

    public void Add(BankLine line) => _lines.Add(line);
}

/// <summary>
/// A line of a statement, and how much of it is placed. Amounts are minor units; above zero for money that came in.
/// </summary>
public sealed class BankLine
{
    private readonly List<LinePlacement> _placements = [];

    private BankLine() => Currency = null!;

    public BankLine(int accountId, int position, StatementLine line, Currency currency)
    {
        (AccountId, Position, Date, Amount, Currency) = (accountId, position, line.Date, line.Amount, currency);
        (Name, Account, Text, Reference, BankReference, Returned) = (
            line.Name,
            line.Account,
            line.Text,
            line.Reference,
            line.BankReference,
            line.Returned
        );
        (Given, GivenIn, Charge) = (line.Given, line.GivenIn, line.Charge);
    }

    public int Id { get; private set; }

    public int StatementId { get; private set; }

    public int AccountId { get; private set; }

    public int Position { get; private set; }

    public DateOnly Date { get; private set; }

    public long Amount { get; private set; }

    public Currency Currency { get; private set; }

    public string Name { get; private set; } = "";

    public string Account { get; private set; } = "";

    public string Text { get; private set; } = "";

    public string Reference { get; private set; } = "";

    public string BankReference { get; private set; } = "";

    /// <inheritdoc cref="StatementLine.Returned"/>
    public bool Returned { get; private set; }

    /// <inheritdoc cref="StatementLine.Given"/>
    public long Given { get; private set; }

    /// <inheritdoc cref="StatementLine.GivenIn"/>
    public Currency? GivenIn { get; private set; }

    /// <inheritdoc cref="StatementLine.Charge"/>
    public long Charge { get; private set; }

    /// <summary>
    /// What of the amount is placed, of the same sign. Kept for speed; it follows from the placements.
    /// </summary>
    public long Placed { get; private set; }

    public long Left => Amount - Placed;

    public IReadOnlyList<LinePlacement> Placements => _placements;

    /// <exception cref="RefusalException">When it is more than is left, or nothing.</exception>
    public LinePlacement Place(long amount, int? bookingId, int? receiptId, string words, int? joinedBookingId = null)
    {
        if (amount == 0 || Math.Sign(amount) != Math.Sign(Amount) || Math.Abs(amount) > Math.Abs(Left))
            throw new RefusalException(
                "amount",
                $"{new Money(Left, Currency)} of this line is left to place. Place at most that."
            );
        return Add(amount, bookingId, receiptId, words, joinedBookingId);
    }

    /// <summary>
    /// Places a fee that was kept of the money before it came: that much more of the line is to be placed.
    /// </summary>
    /// <param name="fee">Minor units, above zero.</param>
    /// <exception cref="RefusalException">When the line is no money that came in, or the fee is more than the
    /// line.</exception>
    public LinePlacement PlaceFee(long fee, int bookingId, string words) =>
        Amount > 0 && fee > 0 && fee <= Amount
            ? Add(-fee, bookingId, null, words, null)
            : throw new RefusalException("amount", "A fee is kept of money that came in, and is less than that.");

    private LinePlacement Add(long amount, int? bookingId, int? receiptId, string words, int? joinedBookingId)
    {
        var placement = new LinePlacement(amount, bookingId, receiptId, words, joinedBookingId);
        _placements.Add(placement);
        Placed += amount;
        return placement;
    }

    /// <summary>Takes a placement back; the line has that much left again.</summary>
    public void TakeBack(LinePlacement placement)
    {
        if (_placements.Remove(placement))
            Placed -= placement.Amount;
    }
}

/// <summary>A part of a bank line, with what it was placed as.</summary>
public sealed class LinePlacement
{
    private LinePlacement() { }

    internal LinePlacement(long amount, int? bookingId, int? receiptId, string words, int? joinedBookingId) =>
        (Amount, BookingId, ReceiptId, Words, JoinedBookingId) = (amount, bookingId, receiptId, words, joinedBookingId);

    public int Id { get; private set; }

    public int LineId { get; private set; }

    /// <summary>Minor units, of the line's sign; of the other for a fee that was kept.</summary>
    public long Amount { get; private set; }

    /// <summary>
    /// What was booked for it, and is undone when it is put back; null where it was joined with what was there.
    /// </summary>
    public int? BookingId { get; private set; }

    /// <summary>The receipt entered by hand that it was joined with.</summary>
    public int? ReceiptId { get; private set; }

    /// <summary>The refund, or returned payment, entered by hand that it was joined with.</summary>
    public int? JoinedBookingId { get; private set; }

    public string Words { get; private set; } = "";
}

/// <summary>What was learned of a payer: whose money it is, or what it is for.</summary>
public sealed class PayerRule
{
    private PayerRule() { }

    public PayerRule(
        string account,
        string name,
        int? customerId,
        int? ledgerAccountId,
        DateOnly learned,
        bool wentOut = false
    ) =>
        (Account, Name, CustomerId, LedgerAccountId, LearnedOn, WentOut) = (
            account,
            name,
            customerId,
            ledgerAccountId,
            learned,
            wentOut
        );

    public int Id { get; private set; }

    /// <summary>The payer's account, letters and digits only; empty where the rule goes by name.</summary>
    public string Account { get; private set; } = "";

    public string Name { get; private set; } = "";

    public int? CustomerId { get; private set; }

    public int? LedgerAccountId { get; private set; }

    public DateOnly LearnedOn { get; private set; }

    /// <summary>Whether it is of money that went out: what a bank takes is not what it gives.</summary>
    public bool WentOut { get; private set; }
}

/// <summary>
/// How an account's CSV statements are read, by the heads of their columns. Empty for what the file does not have.
/// </summary>
public sealed record CsvColumns
{
    public string Date { get; init; } = "";

    public string Amount { get; init; } = "";

    /// <summary>Where money in and money out stand in two columns, that of money out.</summary>
    public string Out { get; init; } = "";

    public string Name { get; init; } = "";

    public string Account { get; init; } = "";

    public string Text { get; init; } = "";

    public string Reference { get; init; } = "";

    public string BankReference { get; init; } = "";

    /// <summary>
    /// Which way the money went, where the amounts themselves do not tell: D and C, debit and credit.
    /// </summary>
    public string Side { get; init; } = "";

    /// <summary><c>day</c> or <c>month</c>, whichever comes first in a date; found out where it is empty.</summary>
    public string DateOrder { get; init; } = "";

    /// <summary>A point or a comma; found out where it is empty.</summary>
    public string DecimalMark { get; init; } = "";
}
