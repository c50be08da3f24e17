using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class PaperLayouts : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "FilesCarried",
                table: "Post",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Particulars_Language",
                table: "Documents",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "KeptPictures",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Data = table.Column<byte[]>(type: "BLOB", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KeptPictures", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "KeptWords",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KeptWords", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "LayoutStates",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    LayoutId = table.Column<int>(type: "INTEGER", nullable: true),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    No = table.Column<int>(type: "INTEGER", nullable: false),
                    Json = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Made = table.Column<DateTime>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LayoutStates", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Layouts",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Work = table.Column<string>(type: "TEXT", nullable: false),
                    StateId = table.Column<int>(type: "INTEGER", nullable: true),
                    ChangedAt = table.Column<DateTime>(type: "TEXT", nullable: false),
                    ChangedBy = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Layouts", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "OwnLanguages",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    DecimalMark = table.Column<string>(type: "TEXT", nullable: false),
                    Dates = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OwnLanguages", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "SentFiles",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Data = table.Column<byte[]>(type: "BLOB", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SentFiles", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Wordings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Of = table.Column<string>(type: "TEXT", maxLength: 40, nullable: false),
                    Key = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Wordings", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "IssuedLooks",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    DocumentId = table.Column<int>(type: "INTEGER", nullable: false),
                    StateId = table.Column<int>(type: "INTEGER", nullable: false),
                    LogoId = table.Column<int>(type: "INTEGER", nullable: true),
                    SignatureId = table.Column<int>(type: "INTEGER", nullable: true),
                    WordsId = table.Column<int>(type: "INTEGER", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false),
                    Seal = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_IssuedLooks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_IssuedLooks_Documents_DocumentId",
                        column: x => x.DocumentId,
                        principalTable: "Documents",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_IssuedLooks_LayoutStates_StateId",
                        column: x => x.StateId,
                        principalTable: "LayoutStates",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "LayoutRules",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    SeriesId = table.Column<int>(type: "INTEGER", nullable: true),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    CustomerId = table.Column<int>(type: "INTEGER", nullable: true),
                    Currency = table.Column<string>(type: "TEXT", nullable: false),
                    LayoutId = table.Column<int>(type: "INTEGER", nullable: true),
                    Key = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LayoutRules", x => x.Id);
                    table.ForeignKey(
                        name: "FK_LayoutRules_Customers_CustomerId",
                        column: x => x.CustomerId,
                        principalTable: "Customers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_LayoutRules_Layouts_LayoutId",
                        column: x => x.LayoutId,
                        principalTable: "Layouts",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_LayoutRules_Series_SeriesId",
                        column: x => x.SeriesId,
                        principalTable: "Series",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "SentPapers",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    PostItemId = table.Column<int>(type: "INTEGER", nullable: false),
                    Position = table.Column<int>(type: "INTEGER", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    FileId = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SentPapers", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SentPapers_Post_PostItemId",
                        column: x => x.PostItemId,
                        principalTable: "Post",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_SentPapers_SentFiles_FileId",
                        column: x => x.FileId,
                        principalTable: "SentFiles",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_IssuedLooks_DocumentId",
                table: "IssuedLooks",
                column: "DocumentId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_IssuedLooks_StateId",
                table: "IssuedLooks",
                column: "StateId");

            migrationBuilder.CreateIndex(
                name: "IX_KeptPictures_Hash",
                table: "KeptPictures",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_KeptWords_Hash",
                table: "KeptWords",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_LayoutRules_CustomerId",
                table: "LayoutRules",
                column: "CustomerId",
                filter: "\"CustomerId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LayoutRules_LayoutId",
                table: "LayoutRules",
                column: "LayoutId",
                filter: "\"LayoutId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LayoutRules_SeriesId",
                table: "LayoutRules",
                column: "SeriesId",
                filter: "\"SeriesId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_LayoutStates_Hash",
                table: "LayoutStates",
                column: "Hash");

            migrationBuilder.CreateIndex(
                name: "IX_LayoutStates_LayoutId",
                table: "LayoutStates",
                column: "LayoutId",
                filter: "\"LayoutId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Layouts_Name",
                table: "Layouts",
                column: "Name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_OwnLanguages_Code",
                table: "OwnLanguages",
                column: "Code",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SentFiles_Hash",
                table: "SentFiles",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_SentPapers_FileId",
                table: "SentPapers",
                column: "FileId");

            migrationBuilder.CreateIndex(
                name: "IX_SentPapers_PostItemId_Position",
                table: "SentPapers",
                columns: new[] { "PostItemId", "Position" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Wordings_Language_Of_Key",
                table: "Wordings",
                columns: new[] { "Language", "Of", "Key" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "IssuedLooks");

            migrationBuilder.DropTable(
                name: "KeptPictures");

            migrationBuilder.DropTable(
                name: "KeptWords");

            migrationBuilder.DropTable(
                name: "LayoutRules");

            migrationBuilder.DropTable(
                name: "OwnLanguages");

            migrationBuilder.DropTable(
                name: "SentPapers");

            migrationBuilder.DropTable(
                name: "Wordings");

            migrationBuilder.DropTable(
                name: "LayoutStates");

            migrationBuilder.DropTable(
                name: "Layouts");

            migrationBuilder.DropTable(
                name: "SentFiles");

            migrationBuilder.DropColumn(
                name: "FilesCarried",
                table: "Post");

            migrationBuilder.DropColumn(
                name: "Particulars_Language",
                table: "Documents");
        }
    }
}
