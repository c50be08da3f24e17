using Jugaad.Desk.Banking;
using Jugaad.Desk.Books;
using Jugaad.Desk.Checking;
using Jugaad.Desk.Collecting;
using Jugaad.Desk.Counter;
using Jugaad.Desk.Daily;
using Jugaad.Desk.Drafting;
using Jugaad.Desk.Filing;
using Jugaad.Desk.Issuing;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lines;
using Jugaad.Desk.Machine;
using Jugaad.Desk.Making;
using Jugaad.Desk.Moving;
using Jugaad.Desk.Papers;
using Jugaad.Desk.Paying;
using Jugaad.Desk.People;
using Jugaad.Desk.Post;
using Jugaad.Desk.Receiving;
using Jugaad.Desk.Reference;
using Jugaad.Desk.Reports;
using Jugaad.Desk.Screens;
using Jugaad.Desk.Setup;
using Jugaad.Desk.Standing;
using Jugaad.Desk.Stock;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;

namespace Jugaad.Desk;

/// <summary>Registers the books and all desks for one folder.</summary>
public static class DeskServices
{
    /// <summary>Of PBKDF2 with SHA-512, by OWASP's advice of 2025.</summary>
    private const int HashRounds = 220_000;

    /// <summary>The desks of each room, in the order of the stair.</summary>
    private static IEnumerable<IReadOnlyList<Type>> Rooms =>
        [
            BooksRoom.Desks,
            MachineRoom.Desks,
            ReferenceRoom.Desks,
            PapersRoom.Desks,
            PostRoom.Desks,
            PeopleRoom.Desks,
            SetupRoom.Desks,
            LinesRoom.Desks,
            StockRoom.Desks,
            DraftingRoom.Desks,
            MakingRoom.Desks,
            ReceivingRoom.Desks,
            IssuingRoom.Desks,
            CounterRoom.Desks,
            PayingRoom.Desks,
            BankingRoom.Desks,
            StandingRoom.Desks,
            CollectingRoom.Desks,
            FilingRoom.Desks,
            CheckingRoom.Desks,
            KeepingRoom.Desks,
            MovingRoom.Desks,
            ReportsRoom.Desks,
            ScreensRoom.Desks,
            DailyRoom.Desks,
        ];

    /// <summary>
    /// Whoever composes the program adds an <see cref="IActor"/> and what stands in <see cref="Outside"/>.
    /// </summary>
    public static IServiceCollection AddDesks(this IServiceCollection services, BooksFile file)
    {
        services.AddSingleton(file);
        services.TryAddSingleton(TimeProvider.System);
        services.AddSingleton<PostBell>();
        services.AddSingleton<StandingProgress>();
        services.AddSingleton<LadderProgress>();
        services.AddSingleton<HabitsMemory>();
        services.AddDbContext<BooksContext>((_, options) => file.Configure(options));
        services
            .AddIdentityCore<Person>(identity =>
            {
                // What a password must be, our own rules say.
                identity.Password.RequiredLength = 1;
                identity.Password.RequireNonAlphanumeric = false;
                identity.Password.RequireUppercase = false;
                identity.Password.RequireDigit = false;
                identity.Password.RequireLowercase = false;
                identity.User.RequireUniqueEmail = true;
            })
            .AddRoles<IdentityRole<int>>()
            .AddPasswordValidator<PasswordRules>()
            .AddTokenProvider<OnceCodes>(TokenOptions.DefaultAuthenticatorProvider)
            .AddEntityFrameworkStores<BooksContext>()
            .AddUserStore<PeopleStore>();
        services.Configure<PasswordHasherOptions>(hashing => hashing.IterationCount = HashRounds);
        services.AddSingleton<SignInGuard>();
        foreach (var desk in Rooms.SelectMany(room => room))
            services.AddScoped(desk);
        services.AddScoped<IAgreements>(desks => desks.GetRequiredService<Agreements>());
        services.AddScoped<IPostReports>(desks => desks.GetRequiredService<KeptViews>());
        services.AddScoped<IPayTaxes>(desks => desks.GetRequiredService<ReturnPaying>());
        return services;
    }
}
