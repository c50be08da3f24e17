using System.Text;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Jugaad.Desk.Tests;

/// <summary>
/// Every stored column that counts, as the model of the books has them, is damaged once; the check, or the database,
/// finds each.
/// </summary>
public sealed class TamperTests(RichBooks books) : IClassFixture<RichBooks>
{
    /// <summary>The tables whose figures, days, states and ties are proved.</summary>
    private static readonly string[] Proved =
    [
        "Documents",
        "DocumentLine",
        "DocumentCharge",
        "DocumentTax",
        "AccountItems",
        "Allocations",
        "Receipts",
        "Refunds",
        "Settlements",
        "SettlementTax",
        "OtherMoney",
        "Conversions",
        "Valuations",
        "Bookings",
        "Journal",
        "JournalLines",
        "BankStatements",
        "BankLines",
        "LinePlacements",
        "StockMoves",
        "SeriesCounters",
        "StandingInvoices",
        "StandingOccurrences",
        "TillCounts",
        "Post",
        "PostAttachment",
    ];

    /// <summary>Columns that nothing else follows from, by why that is so.</summary>
    private static readonly (string Why, string[] Columns)[] Free =
    [
        (
            "words, for people to read",
            [
                "Bookings.By",
                "Bookings.Words",
                "OtherMoney.Text",
                "Conversions.Text",
                "Documents.Particulars_RateReason",
                "Receipts.CreatedBy",
                "Receipts.Reference",
                "Receipts.Way",
                "Refunds.PayeeName",
                "Refunds.Reference",
                "Refunds.Bic",
                "Settlements.Reason",
                "TillCounts.By",
                "TillCounts.Reason",
                "BankLines.Account",
                "BankLines.Name",
                "BankLines.Text",
                "BankLines.Reference",
                "BankLines.BankReference",
                "BankStatements.FileName",
                "BankStatements.Format",
                "BankStatements.Number",
                "BankStatements.Remarks",
                "LinePlacements.Words",
                "Documents.AnswerNote",
                "Documents.ClosedReason",
                "Documents.CreatedBy",
                "Documents.PaidWords",
                "Documents.TermsText",
                "Documents.TaxWords",
                "Documents.Note",
                "Documents.PrivateNote",
                "Documents.PurchaseOrder",
                "Documents.NumberByHand",
                "Documents.Particulars_Reason",
                "Documents.Particulars_Opening",
                "Documents.Particulars_Project",
                "Documents.Particulars_Reference",
                "Documents.Particulars_Carrier",
                "Documents.Particulars_DeliveryTerms",
                "DocumentCharge.Text",
                "DocumentLine.Text",
                "Journal.Text",
                "StandingInvoices.CreatedBy",
                "StandingInvoices.Name",
                "StandingInvoices.Problem",
                "StandingInvoices.Content",
                "StockMoves.Reason",
                "StockMoves.Who",
                "Post.Key",
                "Post.To",
                "Post.Subject",
                "Post.Body",
                "Post.CreatedBy",
                "Post.Marks",
                "Post.FileIds",
                "Post.LastProblem",
                "Documents.Facts",
                "Documents.Sender",
                "Documents.Addressee",
                "Documents.Place",
                "TrailEntries.Text",
            ]
        ),
        (
            "said by a person, and by nothing else",
            [
                "Documents.AnsweredOn",
                "Documents.ClosedOn",
                "Documents.LostBy",
                "Documents.ValidUntil",
                "Documents.TaxDate",
                "Documents.PlaceId",
                "Documents.SeriesByHand",
                "Documents.DueByHand",
                "Documents.Particulars_DeliveredFrom",
                "Documents.Particulars_DeliveredUntil",
                "Documents.Particulars_FollowUp",
                "Documents.Particulars_DepositPercent",
                "Documents.Particulars_DepositAmount",
                "Receipts.CameOn",
                "Documents.Particulars_SellerId",
                "StandingInvoices.Paused",
                "StandingInvoices.PricesOfTheDay",
                "StandingInvoices.TellAfter",
                "StandingInvoices.TellBefore",
                "StandingInvoices.Way",
                "StandingInvoices.Schedule_Times",
                "StandingInvoices.Schedule_Until",
                "StandingInvoices.CustomerId",
                "OtherMoney.TaxCodeId",
                "Documents.Particulars_RateHeldUntil",
                "DocumentLine.Choice",
            ]
        ),
        (
            "said by the bank's file alone",
            [
                "BankLines.Position",
                "BankLines.Returned",
                "BankLines.Charge",
                "BankLines.Given",
                "BankLines.GivenIn",
                "BankStatements.From",
                "BankStatements.Until",
                "BankStatements.TakenIn",
            ]
        ),
        (
            "which of two of one chain, or of one day, it was makes no figure",
            [
                "Allocations.BookingId",
                "Allocations.EndedById",
                "Bookings.UndoneOn",
                "Journal.BookingId",
                "Refunds.PaymentFileId",
                "StockMoves.DocumentId",
                "StandingOccurrences.DocumentId",
            ]
        ),
        (
            "only tells where it makes a difference, and is found there",
            ["Documents.TaxRounding", "DocumentLine.TaxesBefore", "DocumentLine.Before"]
        ),
        ("damaged by tests of their own, TaxAmendmentTests", ["Journal.ReturnId"]),
        ("damaged by tests of their own, SalesSummariesTests", ["Post.SummaryId"]),
        ("has no value, and the check says so where it has", ["OtherMoney.Money_ChargeAccountId"]),
        (
            "counts changes, for two who save at once",
            ["Documents.Version", "StandingInvoices.Version", "Documents.Revision"]
        ),
        (
            "how far the post got is told by the carrier alone",
            [
                "Post.NextTryAt",
                "Post.SentAt",
                "Post.Day",
                "Post.Kind",
                "Post.Way",
                "Post.LinkOnly",
                "Post.Hybrid",
                "Post.Statement",
                "Post.Report",
                "Post.CustomerId",
                "Post.Tries",
                "Post.Since",
            ]
        ),
    ];

    /// <summary>Tables of which nothing is proved, by why that is so.</summary>
    private static readonly (string Why, string[] Tables)[] Unproved =
    [
        (
            "what a person said of the business, its customers and items; papers freeze what counts of it",
            [
                "Businesses",
                "Customers",
                "CustomerContacts",
                "CustomerPlaces",
                "ExemptionCertificates",
                "Items",
                "ItemPrices",
                "PriceLists",
                "LedgerAccounts",
                "AuthorityRates",
                "ExchangeRates",
                "RateRules",
                "KindTexts",
                "MailWords",
                "NoteReasons",
                "PayWays",
                "Series",
                "Starters",
                "Terms",
                "TaxAuthorities",
                "TaxBasisChanges",
                "TaxCodes",
                "TaxCodeParts",
                "TaxComponents",
                "TaxRates",
                "TaxRules",
            ]
        ),
        (
            "what a person said of this machine and its ways out",
            [
                "MailSettings",
                "BackupSettings",
                "MachineSettings",
                "CollectingSettings",
                "PayingSettings",
                "LateRates",
                "Ladders",
                "LadderSteps",
                "Holidays",
            ]
        ),
        (
            "damaged by tests of their own, KeepingTests and ImportUndoTests",
            ["NumberGaps", "ImportRuns", "ImportEffects"]
        ),
        (
            "damaged by tests of their own, CollectingTests and LadderRunTests: what people said, tied to what is owed",
            [
                "ContactNotes",
                "Promises",
                "PromiseItems",
                "Disputes",
                "Plans",
                "PlanItems",
                "PlanParts",
                "ChaseLetters",
                "ChaseLetterItems",
                "LeftOut",
                "CreditPasses",
                "LateCharges",
            ]
        ),
        (
            "damaged by tests of their own, TaxFilingTests, TaxAmendmentTests and TaxSettlingTests: what authorities are told; whom, from where and of what is as it was when posted",
            ["TaxFigures", "PaperPlaces", "TaxReturns", "FiledRows", "TaxPayments", "TaxCharges", "TaxCarries"]
        ),
        (
            "damaged by tests of their own, LayoutKeepingTests: how papers look, and with what each was issued",
            ["Layouts", "LayoutStates", "LayoutRules", "KeptPictures", "IssuedLooks"]
        ),
        (
            "damaged by tests of their own, WordingTests: what papers say by language, and what went along with mails",
            ["Wordings", "OwnLanguages", "KeptWords", "SentPapers", "SentFiles"]
        ),
        (
            "damaged by tests of their own, ItemNumbersTests: the numbers by which customers know items",
            ["CustomerItemNumbers"]
        ),
        ("damaged by tests of their own, EInvoiceSendingTests: what receivers said of e-invoices", ["NetworkAnswers"]),
        (
            "damaged by tests of their own, SalesSummariesTests: what sales at the counter are told in",
            ["SalesSummaries", "SummarySales"]
        ),
        (
            "damaged by tests of their own, PayingTests: card payments, what was told of them, and payouts",
            ["PayRequests", "PayRequestParts", "CardRefunds", "CardCalls", "CardPayouts", "CardPayoutParts"]
        ),
        (
            "what was learned or chosen for the next time, and makes no figure by itself",
            [
                "CsvMaps",
                "PayerRules",
                "KeptViews",
                "ItemBatches",
                "ItemBatchRows",
                "PaymentFiles",
                "Shelf",
                "AnsweredForms",
            ]
        ),
        (
            "what happened, for people to read, and files as they came; backups are proved by their own sums",
            ["BackupRuns", "Trail", "PostTry", "DocumentFiles", "ClosingTicks"]
        ),
        (
            "ways in, which end by themselves; damaged, they open nothing",
            [
                "OpenSessions",
                "CalendarKeys",
                "PasswordResets",
                "Invitations",
                "DocumentLinks",
                "AccountLinks",
                "AspNetUsers",
                "AspNetRoles",
                "AspNetUserRoles",
                "AspNetUserClaims",
                "AspNetRoleClaims",
                "AspNetUserLogins",
                "AspNetUserTokens",
                "AspNetUserPasskeys",
            ]
        ),
    ];

    [Fact]
    public async Task Every_table_is_proved_or_said_why_not() =>
        await books.Loft.WithAsync<BooksContext>(db =>
        {
            var tables = db
                .Model.GetEntityTypes()
                .Select(t => t.GetTableName())
                .OfType<string>()
                .Distinct()
                .Order()
                .ToList();
            var said = Proved.Concat(Unproved.SelectMany(u => u.Tables)).Order().ToList();
            said.ShouldBeUnique();
            said.ShouldBe(tables);
            return Task.CompletedTask;
        });

    private static readonly HashSet<string> Left = [.. Free.SelectMany(f => f.Columns)];

    [Fact]
    public async Task The_rich_books_are_healthy() => (await books.Loft.CheckAsync()).Differences.ShouldBeEmpty();

    [Fact]
    public async Task Each_column_that_counts_is_proved()
    {
        var (unfound, empty) = (new StringBuilder(), new StringBuilder());
        await books.Loft.WithAsync<BooksContext>(async db =>
        {
            foreach (var (table, column, property) in Columns(db.Model))
            {
                if (Left.Contains($"{table}.{column}"))
                    continue;
                var rows = await RowsAsync(db, table, column, property);
                if (rows.Count == 0)
                    empty.AppendLine($"{table}.{column} is empty");
                foreach (var row in rows)
                    if (!await FoundAsync(db, table, column, property, row))
                        unfound.AppendLine($"{table}.{column} of row {row}");
            }
        });
        (unfound.ToString() + empty).ShouldBe(
            "",
            "damages that nobody finds, or columns without a value in the rich books, so that nothing is tried"
        );
    }

    private static IEnumerable<(string Table, string Column, IProperty Property)> Columns(IModel model) =>
        from type in model.GetEntityTypes()
        let table = type.GetTableName()
        where table is not null && Proved.Contains(table)
        from property in type.GetProperties()
            .Concat(type.GetComplexProperties().SelectMany(c => c.ComplexType.GetProperties()))
        where !property.IsPrimaryKey()
        let column = property.GetColumnName(StoreObjectIdentifier.Table(table, null))
        where column is not null
        select (table, column, property);

    private const string Posting = "'Invoice', 'CreditNote', 'DebitNote'";

    /// <summary>The first and the last row that have a value there, of what was issued.</summary>
    private static async Task<List<long>> RowsAsync(BooksContext db, string table, string column, IProperty property)
    {
        var issued = table switch
        {
            // Quotes and notes have the same figures, and none on any account.
            "Documents" => column switch
            {
                "IsReplaced" or "RevisesId" => "Number IS NOT NULL",
                "Particulars_GoodsStay" => "Id IN (SELECT DocumentId FROM StockMoves)",
                _ => $"Number IS NOT NULL AND Kind IN ({Posting})",
            },
            "DocumentLine" =>
                $"Role NOT IN ('Text', 'Section', 'Subtotal') AND Choice = 'Firm' AND DocumentId IN (SELECT Id FROM Documents WHERE Number IS NOT NULL AND Kind IN ({Posting}))",
            "DocumentCharge" or "DocumentTax" =>
                $"DocumentId IN (SELECT Id FROM Documents WHERE Number IS NOT NULL AND Kind IN ({Posting}))",
            // What other books said of it is said by them alone, but for its amounts.
            "AccountItems" when column is "Due" or "Number" or "Date" =>
                "DocumentId IS NOT NULL OR ReceiptId IS NOT NULL OR BookingId IS NOT NULL",
            "BankLines" when column == "Date" =>
                "Id IN (SELECT LineId FROM LinePlacements WHERE BookingId IS NOT NULL)",
            "TillCounts" when column == "Date" => "BookingId IS NOT NULL",
            "Settlements" when column == "ExchangeRate" => "DocumentId IS NOT NULL",
            _ => "1",
        };
        var filled =
            property.ClrType == typeof(string) ? $"\"{column}\" <> ''"
            : property.ClrType == typeof(bool) ? "1"
            : $"\"{column}\" IS NOT NULL";
        await db.Database.OpenConnectionAsync();
        await using var command = db.Database.GetDbConnection().CreateCommand();
        command.CommandText = $"SELECT MIN(Id), MAX(Id) FROM \"{table}\" WHERE ({issued}) AND {filled}";
        await using var reader = await command.ExecuteReaderAsync();
        await reader.ReadAsync();
        return await reader.IsDBNullAsync(0) ? [] : [.. new[] { reader.GetInt64(0), reader.GetInt64(1) }.Distinct()];
    }

    private static async Task<bool> FoundAsync(
        BooksContext db,
        string table,
        string column,
        IProperty property,
        long row
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync();
        try
        {
            await using var damage = db.Database.GetDbConnection().CreateCommand();
            damage.CommandText = $"UPDATE \"{table}\" SET \"{column}\" = {Other(column, property)} WHERE Id = {row}";
            damage.Transaction = Microsoft.EntityFrameworkCore.Storage.DbContextTransactionExtensions.GetDbTransaction(
                transaction
            );
            await damage.ExecuteNonQueryAsync();
            return !(await new BooksCheck(db).RunAsync()).Healthy;
        }
        catch (SqliteException refused) when (refused.SqliteErrorCode == 19)
        {
            return true;
        }
        finally
        {
            await transaction.RollbackAsync();
            db.ChangeTracker.Clear();
        }
    }

    private static string Other(string column, IProperty property)
    {
        var type = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        if (type.IsEnum)
        {
            var names = Enum.GetNames(type);
            return $"CASE \"{column}\" {string.Concat(names.Select((n, i) => $"WHEN '{n}' THEN '{names[(i + 1) % names.Length]}' "))}END";
        }

        if (type == typeof(DateOnly))
            return $"date(\"{column}\", '+1 day')";
        if (type == typeof(bool))
            return $"1 - \"{column}\"";
        if (type == typeof(Core.Amounts.Currency))
            return $"CASE \"{column}\" WHEN 'EUR' THEN 'SEK' ELSE 'EUR' END";
        // A figure has so many decimals that its last makes no minor unit.
        if (type == typeof(decimal))
            return $"\"{column}\" * 2 + 3000000";
        return type == typeof(string) || type == typeof(DateTime) || !(type == typeof(int) || type == typeof(long))
            ? $"\"{column}\" || 'x'"
            : $"\"{column}\" + 1";
    }
}
