using System.Net;
using Jugaad.Core;
using Jugaad.Demo;
using Jugaad.Desk;
using Jugaad.Desk.Books;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Lists;
using Jugaad.Desk.Outside;
using Jugaad.Formats.Archives;
using Jugaad.Formats.Bank;
using Jugaad.Formats.Calendars;
using Jugaad.Formats.EInvoices;
using Jugaad.Formats.Papers;
using Jugaad.Formats.Pictures;
using Jugaad.Formats.Rates;
using Jugaad.Formats.Tables;
using Jugaad.Formats.Taxes;
using Jugaad.Outside;
using Jugaad.Web.Pages.Moving;
using Jugaad.Web.Pages.Papers;
using Jugaad.Web.Pages.Payer;
using Jugaad.Web.Pages.People;
using Jugaad.Web.Pages.Reports;
using Jugaad.Web.Pages.Sell;
using Jugaad.Web.Pages.Setup;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Serilog;
using Serilog.Events;

namespace Jugaad.Web.Shell;

/// <summary>Composes the program.</summary>
internal static class WebHost
{
    private const long MostBody = 24 * 1024 * 1024;

    /// <returns>The program, ready to start. It has the books' folder to itself until it is disposed of.</returns>
    /// <param name="more">Services that are to be other than usual.</param>
    /// <exception cref="RefusalException">When somebody else has the folder, or the books in it cannot be
    /// opened.</exception>
    internal static async Task<WebApplication> BuildAsync(LaunchOptions launch, Action<IServiceCollection>? more = null)
    {
        var file = new BooksFile(launch.Data);
        var held = BooksLock.Hold(file, launch.Demo ? "by ./jugaad demo" : "by ./jugaad serve");
        try
        {
            return await BuildAsync(launch, file, held, more);
        }
        catch
        {
            held.Dispose();
            throw;
        }
    }

    private static async Task<WebApplication> BuildAsync(
        LaunchOptions launch,
        BooksFile file,
        BooksLock held,
        Action<IServiceCollection>? more
    )
    {
        if (launch.Fresh)
            Clear(file);
        var made = MadeBooksOf(launch);
        if (launch.Demo)
            made.Give(file);
        if (FolderSwap.GoOn(file) is { } aside)
            Console.WriteLine($"A restore that was stopped has been finished; what was there before lies in {aside}.");
        if (Directory.Exists(ArchiveWriter.Scratch(file)))
            Directory.Delete(ArchiveWriter.Scratch(file), recursive: true);
        await PrepareAsync(launch, file);
        var key = KeyFromOutside.Read(Environment.GetEnvironmentVariable(KeyFromOutside.Variable));
        key.TakeOver(file.KeysFolder);
        var builder = WebApplication.CreateBuilder(
            new WebApplicationOptions
            {
                ContentRootPath = launch.ContentRoot,
                ApplicationName = typeof(WebHost).Assembly.GetName().Name,
            }
        );
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.Listen(launch.Listen ?? IPAddress.Loopback, launch.Port);
            kestrel.Limits.MaxRequestBodySize = MostBody;
            kestrel.AddServerHeader = false;
        });
        builder.Host.UseSerilog(
            (_, log) =>
                log
                    .MinimumLevel.Information()
                    .MinimumLevel.Override("Microsoft", LogEventLevel.Warning)
                    // What keeps the program from starting is said in words instead.
                    .MinimumLevel.Override("Microsoft.Extensions.Hosting", LogEventLevel.Fatal)
                    .MinimumLevel.Override("Microsoft.AspNetCore.Antiforgery", LogEventLevel.Fatal)
                    .MinimumLevel.Override("Microsoft.AspNetCore.DataProtection", LogEventLevel.Error)
                    // What it throws is told in words where it is caught, each kind once in a while.
                    .MinimumLevel.Override("Microsoft.EntityFrameworkCore", LogEventLevel.Fatal)
                    .WriteTo.Console(
                        restrictedToMinimumLevel: LogEventLevel.Warning,
                        standardErrorFromLevel: LogEventLevel.Verbose
                    )
        );
        AddServices(builder.Services, file, launch.Port, key);
        // Let go of last, when all that writes has ended.
        builder.Services.AddSingleton(_ => held);
        more?.Invoke(builder.Services);
        var app = builder.Build();
        app.Services.GetRequiredService<BooksLock>();
        if (launch.Demo && await new DemoBooks(app.Services).MakeAsync(Console.WriteLine))
            await made.KeepAsync(app.Services, file);
        Use(app);
        return app;
    }

    private static MadeBooks MadeBooksOf(LaunchOptions launch) =>
        new(launch.MadeBooks, typeof(PaperPrinter).Assembly, typeof(OtherPlaces).Assembly, typeof(WebHost).Assembly);

    /// <summary>The demo's books are no one's: those of an older schema are made anew.</summary>
    private static async Task PrepareAsync(LaunchOptions launch, BooksFile file)
    {
        try
        {
            await file.PrepareAsync(Console.WriteLine);
        }
        catch (OlderBooksException) when (launch.Demo && file.IsPinned())
        {
            Console.WriteLine("The demo's books are of an older Jugaad and are made anew.");
            Clear(file);
            MadeBooksOf(launch).Give(file);
            await file.PrepareAsync(Console.WriteLine);
        }
    }

    internal static void AddServices(
        IServiceCollection services,
        BooksFile file,
        int port = 0,
        KeyFromOutside? key = null
    )
    {
        services.AddDesks(file);
        services.AddHttpContextAccessor();
        services.AddSingleton<NobodyWaits>();
        services.AddDbContext<BooksContext>(
            (asked, options) => options.AddInterceptors(asked.GetRequiredService<NobodyWaits>())
        );
        services.AddScoped<IActor, SignedInActor>();
        services.AddLists();
        services.AddSingleton<IPaperPrinter, PaperPrinter>();
        services.AddSingleton<IPictureCleaner, PictureCleaner>();
        services.AddSingleton<ISecretKeeper, SecretKeeper>();
        services.AddSingleton<ITaxKits, ShippedKits>();
        services.AddSingleton<IBusinessRegister, RegisterStandIn>();
        services.AddSingleton<MailStandIn>();
        services.AddSingleton<IKeptMails>(s => s.GetRequiredService<MailStandIn>());
        services.AddSingleton<SmtpCarrier>();
        services.AddSingleton<IMailCarrier, ChosenCarrier>();
        services.AddSingleton<IMessageGateway, MessageStandIn>();
        services.AddSingleton<IEInvoiceFiles, EInvoicePort>();
        services.AddSingleton<IAccessPoint, AccessPointStandIn>();
        services.AddSingleton<IBank, BankStandIn>();
        services.AddSingleton<IRateSource, RateStandIn>();
        services.AddSingleton<IRateFiles, RateFiles>();
        services.AddSingleton<CardStandIn>();
        services.AddSingleton<ICardService>(s => s.GetRequiredService<CardStandIn>());
        services.AddSingleton<Jugaad.Desk.Filing.IAuthorityDesk, AuthorityStandIn>();
        services.AddSingleton<ICardPage>(s => s.GetRequiredService<CardStandIn>());
        services.AddSingleton<ICalendarFile, CalendarFile>();
        services.AddSingleton<IPaymentFileWriter, CreditTransferWriter>();
        services.AddSingleton<ISiteAddress>(s => new SiteAddress(
            s.GetRequiredService<Microsoft.AspNetCore.Hosting.Server.IServer>(),
            port
        ));
        services.AddSingleton<ITableFiles, TableFiles>();
        services.AddSingleton<IStatementReader, StatementReader>();
        services.AddSingleton<ImportJobs>();
        services.AddHostedService(s => s.GetRequiredService<ImportJobs>());
        services.AddHostedService<PostRound>();
        services.AddHostedService<DayRound>();
        services.AddSingleton<IArchiveSeal, OpenPgpSeal>();
        services.AddSingleton<IOtherPlaces, OtherPlaces>();
        services.AddHostedService<BackupRound>();
        services.AddSingleton<ForgottenLetters>();
        services.AddHostedService<ForgottenLettersRound>();
        services.AddSingleton<Outside>();
        services.AddSingleton<OnceInAWhile>();
        services.AddExceptionHandler<Mishaps>();
        services.AddSingleton<LastCheck>();
        services.AddHostedService<CheckRound>();
        services.AddScoped<FieldState>();

        AddKeys(services, file, key ?? KeyFromOutside.None);
        services
            .AddAuthentication(IdentityConstants.ApplicationScheme)
            .AddIdentityCookies(cookies =>
                cookies.ApplicationCookie!.Configure(cookie =>
                {
                    cookie.LoginPath = "/sign-in";
                    cookie.AccessDeniedPath = "/sign-in";
                    cookie.Cookie.Name = "jugaad";
                    cookie.Cookie.SameSite = SameSiteMode.Lax;
                    cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
                    cookie.SlidingExpiration = true;
                    cookie.Events.OnRedirectToLogin = ApiGuard.SignInOrSayAsync;
                })
            );
        services.AddSingleton<Sessions>();
        services
            .AddOptions<Microsoft.AspNetCore.Authentication.Cookies.CookieAuthenticationOptions>(
                IdentityConstants.ApplicationScheme
            )
            .Configure<Sessions>((cookie, sessions) => cookie.SessionStore = sessions);
        services.AddSingleton<FirstRunCode>();
        services.AddIdentityCore<Person>().AddSignInManager();
        services.Configure<IdentityPasskeyOptions>(passkeys =>
        {
            // The device knows its holder, which makes it two steps in one; and it knows by itself for whom it has one.
            passkeys.UserVerificationRequirement = "required";
            passkeys.ResidentKeyRequirement = "required";
        });
        // A new role, a person shut out or a sign-out everywhere counts from the next request on.
        services.Configure<SecurityStampValidatorOptions>(stamps => stamps.ValidationInterval = TimeSpan.Zero);
        services.AddScoped<IUserClaimsPrincipalFactory<Person>, NamedPrincipals>();
        services
            .AddAuthorizationBuilder()
            .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());
        Visitors.AddLimits(services);
        services.AddAntiforgery(token =>
        {
            token.HeaderName = "X-Form-Token";
            token.Cookie.Name = "jugaad-form";
            token.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        services.Configure<FormOptions>(form =>
        {
            form.ValueLengthLimit = (int)MostBody;
            form.MultipartBodyLengthLimit = MostBody;
            form.ValueCountLimit = 20_000;
        });
        services.AddSingleton<Microsoft.AspNetCore.Mvc.ViewFeatures.IFileVersionProvider, FileVersions>();
        services.AddRazorPages(pages =>
        {
            // Our own filter looks at the token, so that a page that was open too long keeps what was typed.
            pages.Conventions.ConfigureFilter(new IgnoreAntiforgeryTokenAttribute());
            pages.Conventions.ConfigureFilter(new RefusalFilter());
            pages.Conventions.AddPageRoute("/Customers/Edit", "/customers/new");
            pages.Conventions.AddPageRoute("/Items/Edit", "/items/new");
            pages.Conventions.AddPageRoute("/Sell/StandingEdit", "/sell/standing/new");
        });
        services.Configure<CookieTempDataProviderOptions>(said =>
        {
            said.Cookie.Name = "jugaad-said";
            said.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        services.AddRouting(routes => routes.LowercaseUrls = true);
    }

    /// <summary>
    /// The keys that seal sessions and secrets lie in the books' folder; sealed themselves where a key is given from
    /// outside.
    /// </summary>
    private static void AddKeys(IServiceCollection services, BooksFile file, KeyFromOutside key)
    {
        services.AddSingleton(key);
        services
            .AddDataProtection()
            .PersistKeysToFileSystem(new DirectoryInfo(file.KeysFolder))
            .SetApplicationName("Jugaad");
        if (key.IsThere)
            services.Configure<KeyManagementOptions>(keys => keys.XmlEncryptor = key);
    }

    internal static void Use(WebApplication app)
    {
        app.UseExceptionHandler(
            new ExceptionHandlerOptions { ExceptionHandlingPath = "/oops", SuppressDiagnosticsCallback = _ => true }
        );
        // A script wants the status, a person wants words.
        app.UseWhen(
            context => !context.Request.Path.StartsWithSegments("/api"),
            people => people.UseStatusCodePagesWithReExecute("/oops", "?code={0}")
        );
        app.UseMiddleware<SafeHeaders>();
        app.UseMiddleware<OutsideGate>();
        app.UseStaticFiles(
            new StaticFileOptions
            {
                // An address that names the content's hash never means anything else, so it need not be asked again.
                OnPrepareResponse = file =>
                    file.Context.Response.Headers.CacheControl = file.Context.Request.Query.ContainsKey("v")
                        ? "public, max-age=31536000, immutable"
                        : "no-cache",
            }
        );
        app.UseRouting();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseMiddleware<EmptyBooks>();
        app.UseAuthorization();
        app.UseMiddleware<NeededRights>();
        app.UseMiddleware<ReadForms>();
        app.MapRazorPages();
        app.MapGet("/healthz", () => "ok").AllowAnonymous();
        app.MapGet(
                "/fonts/own.css",
                (string? v, HttpContext http) =>
                {
                    // A typeface is known once a paper was set in it, so that there may be more the next time.
                    http.Response.Headers.CacheControl =
                        v == PaperFonts.OwnVersion ? "public, max-age=31536000, immutable" : "no-cache";
                    return Results.Text(PaperFonts.OwnStyle(), "text/css");
                }
            )
            .AllowAnonymous();
        app.MapGet(
                "/fonts/{face}/{weight:regex(^(regular|bold|italic|bold-italic)$)}.ttf",
                (string face, string weight) =>
                    PaperFonts.File(face, weight) is { } file ? Results.File(file, "font/ttf") : Results.NotFound()
            )
            .AllowAnonymous();
        app.MapPapers();
        app.MapPayer();
        app.MapCalendar();
        var api = app.MapGroup("/api").AddEndpointFilter<ApiGuard>();
        api.MapLookups();
        api.MapDrafts();
        api.MapEditor();
        api.MapCounter();
        app.MapStudio(api);
        app.MapMoving(api);
        app.MapReports();
        app.MapLists();
        app.MapBackups();
    }

    /// <summary>Empties the folder of demo books, and no other.</summary>
    /// <exception cref="RefusalException">When something lies there that the demo did not make; nothing is removed
    /// then.</exception>
    private static void Clear(BooksFile file)
    {
        string[] folders = ["mail", "keys", "backups", "scratch", "restoring"];
        bool IsOurs(string? name) =>
            folders.Contains(name)
            || (name?.StartsWith("books", StringComparison.Ordinal) ?? false)
            || (name?.StartsWith("before-", StringComparison.Ordinal) ?? false);
        if (
            Directory
                .EnumerateFileSystemEntries(file.Folder)
                .Select(Path.GetFileName)
                .FirstOrDefault(name => !IsOurs(name)) is
            { } strange
        )
            throw new RefusalException(
                "data",
                $"{file.Folder} holds “{strange}”, which the demo did not make, so nothing was removed. Give another folder with --data."
            );
        foreach (var folder in Directory.GetDirectories(file.Folder))
            Directory.Delete(folder, recursive: true);
        foreach (
            var old in Directory.EnumerateFiles(file.Folder, "books*").Where(f => !BooksLock.IsItsFile(f)).ToList()
        )
            File.Delete(old);
    }
}
