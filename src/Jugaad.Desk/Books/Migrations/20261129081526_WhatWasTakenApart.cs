using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Jugaad.Desk.Books.Migrations
{
    /// <inheritdoc />
    public partial class WhatWasTakenApart : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateIndex(
                name: "IX_Allocations_Until",
                table: "Allocations",
                column: "Until",
                filter: "\"Until\" IS NOT NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Allocations_Until",
                table: "Allocations");
        }
    }
}
