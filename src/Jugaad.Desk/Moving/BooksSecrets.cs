namespace Jugaad.Desk.Moving;

/// <summary>
/// What of the books is never written out: secrets, what only this installation can use, and whether it rests.
/// </summary>
internal static class BooksSecrets
{
    private static readonly HashSet<string> Kept =
    [
        "AspNetRoles",
        "AspNetUserRoles",
        "AspNetUserClaims",
        "AspNetRoleClaims",
        "AspNetUserLogins",
        "AspNetUserTokens",
        "AspNetUserPasskeys",
        "Invitations",
        "PasswordResets",
        "OpenSessions",
        "CalendarKeys",
        "AnsweredForms",
        "DocumentLinks",
        "AccountLinks",
        "AspNetUsers.PasswordHash",
        "AspNetUsers.SecurityStamp",
        "AspNetUsers.ConcurrencyStamp",
        "AspNetUsers.TwoFactorEnabled",
        "AspNetUsers.AccessFailedCount",
        "AspNetUsers.LockoutEnd",
        "AspNetUsers.LastCodeStep",
        "MailSettings.ProtectedPassword",
        "PayingSettings.ProtectedSecret",
        "BackupSettings.ProtectedSecret",
        "Businesses.RestsSince",
        "Businesses.RestsBecause",
    ];

    internal static bool StayBehind(string table) => Kept.Contains(table);

    internal static bool StayBehind(string table, string column) => Kept.Contains($"{table}.{column}");
}
