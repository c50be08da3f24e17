using Jugaad.Core;
using Jugaad.Desk.Books;
using Jugaad.Desk.Kept;
using Jugaad.Desk.People;
using Jugaad.Formats.Codes;
using Jugaad.Web.Shell;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;

namespace Jugaad.Web.Pages.People;

/// <summary>One's own name, password, second step and sessions.</summary>
[Posts(Right.Self)]
public sealed class MeModel(
    OwnSignIn desk,
    Passkeys passkeys,
    SignInManager<Person> signIn,
    UserManager<Person> people,
    CalendarKeys calendars
) : DeskPage
{
    public Person Person { get; private set; } = null!;

    public SecondStep? Step { get; private set; }

    public string Qr { get; private set; } = "";

    public IReadOnlyList<string> SpareCodes { get; private set; } = [];

    /// <summary>Where one is signed in.</summary>
    public IReadOnlyList<OpenSession> Sessions { get; private set; } = [];

    /// <summary>Whether there is an address for one's calendar.</summary>
    public bool HasCalendar { get; private set; }

    /// <summary>The address just made; it is not told again.</summary>
    public string CalendarAddress { get; private set; } = "";

    /// <summary>One's own passkeys, the oldest first.</summary>
    public IReadOnlyList<KeptPasskey> Kept { get; private set; } = [];

    /// <summary>Whether a session is the one of this very request.</summary>
    public bool IsThis(OpenSession session) => session.KeyHash == Shell.Sessions.HashOf(HttpContext);

    private int Id => int.Parse(people.GetUserId(User)!);

    protected override async Task<bool> ShowAsync()
    {
        Person = await desk.FindAsync(Id);
        Sessions = await desk.SessionsAsync(Id);
        HasCalendar = await calendars.HasAsync(Id);
        Kept = await passkeys.ListAsync(Person);
        if (Person.TwoFactorEnabled)
            return true;
        Step = await desk.SecondStepAsync(Id);
        if (Step is not null)
            Qr = QrPicture.Svg(Step.Address, "QR code with the key for your authenticator app", 190);
        return true;
    }

    public Task<IActionResult> OnGetAsync() => ShownAsync();

    public async Task<IActionResult> OnPostNameAsync()
    {
        await desk.RenameAsync(Id, Form.Text("name"), Form.Key);
        return await StayAsync("Saved.");
    }

    public async Task<IActionResult> OnPostCalendarAsync()
    {
        CalendarAddress = await calendars.MakeAsync(Id, Form.Key);
        await ShowAsync();
        return Page();
    }

    public async Task<IActionResult> OnPostNoCalendarAsync()
    {
        await calendars.CloseAsync(Id, Form.Key);
        return await StayAsync("The address of your calendar opens nothing any more.");
    }

    public async Task<IActionResult> OnPostPasswordAsync()
    {
        await desk.ChangePasswordAsync(Id, Form.Text("oldPassword"), Form.Text("password"), Form.Key);
        foreach (var other in (await desk.SessionsAsync(Id)).Where(s => !IsThis(s)))
            await desk.EndSessionAsync(Id, other.Id);
        return await StayAsync("The password is changed, and every other session of yours has ended.");
    }

    public async Task<IActionResult> OnPostPrepareAsync()
    {
        await desk.PrepareSecondStepAsync(Id, Form.Key);
        return await StayAsync("Now tell the app, and type its first code.");
    }

    public async Task<IActionResult> OnPostOnAsync()
    {
        SpareCodes = await desk.SwitchOnAsync(Id, Form.Text("code"), Form.Text("passwordToSwitch"), Form.Key);
        await signIn.RefreshSignInAsync(await desk.FindAsync(Id));
        return await ShownAsync();
    }

    public async Task<IActionResult> OnPostSpareAsync()
    {
        SpareCodes = await desk.NewSpareCodesAsync(Id, Form.Text("passwordToSwitch"), Form.Key);
        await signIn.RefreshSignInAsync(await desk.FindAsync(Id));
        return await ShownAsync();
    }

    /// <summary>What a device is told of whom it makes a passkey for.</summary>
    public async Task<IActionResult> OnPostPasskeyOptionsAsync()
    {
        var person = await desk.FindAsync(Id);
        return Content(
            await signIn.MakePasskeyCreationOptionsAsync(
                new PasskeyUserEntity
                {
                    Id = $"{person.Id}",
                    Name = person.Email!,
                    DisplayName = person.FullName,
                }
            ),
            "application/json"
        );
    }

    public async Task<IActionResult> OnPostPasskeyAsync()
    {
        var made = await PasskeyForms.ReadAsync(() => signIn.PerformPasskeyAttestationAsync(Form.Text("credential")));
        if (made is not { Succeeded: true } || made.UserEntity.Id != $"{Id}")
            throw new RefusalException(
                "passkeyName",
                "The device's answer does not fit what it was asked, so nothing was added. Press the button again."
            );
        await passkeys.AddAsync(Id, made.Passkey, Form.Text("passkeyName"), Form.Text("passwordForPasskey"), Form.Key);
        return await StayAsync("The passkey is added. Try it when you sign in next.");
    }

    public async Task<IActionResult> OnPostDropPasskeyAsync()
    {
        await passkeys.RemoveAsync(Id, Form.Text("passkey"), Form.Key);
        return await StayAsync("The passkey is taken away and opens nothing any more.");
    }

    public async Task<IActionResult> OnPostEndAsync()
    {
        await desk.EndSessionAsync(Id, Form.Whole("session"), Form.Key);
        return Done("That session has ended.");
    }

    public async Task<IActionResult> OnPostOffAsync()
    {
        await desk.SwitchOffAsync(Id, Form.Text("passwordToSwitch"), Form.Key);
        return await StayAsync("The second step is off.");
    }

    public async Task<IActionResult> OnPostEverywhereAsync()
    {
        await desk.SignOutEverywhereAsync(Id, Form.Key);
        await signIn.SignOutAsync();
        Say("You are signed out everywhere.");
        return Redirect("/sign-in");
    }

    /// <summary>This session goes on, though the others end.</summary>
    private async Task<IActionResult> StayAsync(string said)
    {
        await signIn.RefreshSignInAsync(await desk.FindAsync(Id));
        Say(said);
        return Redirect("/me");
    }
}
