using Jugaad.Desk.Books;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Jugaad.Stopper;

/// <summary>
/// A small schema of two steps, so that bringing a file up to date can be tried whatever the books' own steps are.
/// </summary>
public sealed class Boats(DbContextOptions<Boats> options) : DbContext(options)
{
    public static BooksSchema Schema(string path, IInterceptor? watcher = null) =>
        new(path, file => Open(file, watcher));

    public static Boats Open(string path, IInterceptor? watcher = null)
    {
        var options = new DbContextOptionsBuilder<Boats>()
            .UseSqlite($"Data Source={path};Pooling=False")
            .ConfigureWarnings(w => w.Ignore(RelationalEventId.PendingModelChangesWarning));
        if (watcher is not null)
            options.AddInterceptors(watcher);
        return new Boats(options.Options);
    }
}

[DbContext(typeof(Boats))]
[Migration("20250101000000_Begin")]
public sealed class BeginBoats : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.CreateTable(
            "Boats",
            t => new { Id = t.Column<int>(nullable: false), Name = t.Column<string>(nullable: true) },
            constraints: t => t.PrimaryKey("PK_Boats", b => b.Id)
        );
        migrationBuilder.Sql(
            "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 500) INSERT INTO Boats (Id, Name) SELECT i, 'Boat ' || i FROM n"
        );
    }
}

/// <summary>Makes the table anew, which takes several commands, some of them outside a transaction.</summary>
[DbContext(typeof(Boats))]
[Migration("20250201000000_Sails")]
public sealed class SailsOfBoats : Migration
{
    protected override void Up(MigrationBuilder migrationBuilder)
    {
        migrationBuilder.AddColumn<int>("Sails", "Boats", nullable: false, defaultValue: 2);
        migrationBuilder.Sql("PRAGMA foreign_keys = 0", suppressTransaction: true);
        migrationBuilder.Sql(
            "CREATE TABLE ef_temp_Boats (Id INTEGER NOT NULL PRIMARY KEY, Name TEXT NOT NULL, Sails INTEGER NOT NULL)"
        );
        migrationBuilder.Sql("INSERT INTO ef_temp_Boats SELECT Id, Name, Sails FROM Boats");
        migrationBuilder.Sql("PRAGMA foreign_keys = 1", suppressTransaction: true);
        migrationBuilder.Sql("DROP TABLE Boats");
        migrationBuilder.Sql("ALTER TABLE ef_temp_Boats RENAME TO Boats");
    }
}
