"use strict";
// Passkeys: asks the device (Web Authentication) and sends its answer with the form.

document.addEventListener("alpine:init", () => {
  // A number is no name that a passkey could be bound to, and without HTTPS a browser has none but on its own machine.
  const works = !!window.PublicKeyCredential && !/^[\d.]+$|:/.test(location.hostname);

  const asking = (options, ask) => ({
    works,
    busy: false,
    trouble: "",
    async run(form) {
      if (this.busy) return;
      this.busy = true;
      this.trouble = "";
      try {
        const answer = await fetch(options, { method: "POST", body: new FormData(form) });
        if (!answer.ok)
          throw new Error(
            answer.status === 429 ? "Too many tries. Wait a minute." : "The page was open too long. Load it again.",
          );
        const credential = await ask(await answer.json());
        this.$refs.credential.value = JSON.stringify(credential.toJSON());
        form.submit();
      } catch (why) {
        this.busy = false;
        const words = {
          NotAllowedError: "The device said no, or nobody answered it.",
          InvalidStateError: "This device has a passkey for you already.",
        };
        this.trouble = words[why.name] || why.message;
      }
    },
  });

  Alpine.data("showPasskey", () => ({
    ...asking("/sign-in?handler=PasskeyOptions", options =>
      navigator.credentials.get({ publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(options) }),
    ),
    show() {
      this.run(this.$root);
    },
  }));

  Alpine.data("makePasskey", () => ({
    ...asking("/me?handler=PasskeyOptions", options =>
      navigator.credentials.create({ publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(options) }),
    ),
    cannot: !works,
    localAddress: location.protocol + "//localhost" + (location.port ? ":" + location.port : "") + "/me",
    make() {
      this.run(this.$root);
    },
  }));
});
