"use strict";
// Shows how far a long run is while it is at work.
document.addEventListener("alpine:init", () => {
  Alpine.data("running", () => ({
    said: "",
    begin() {
      this.said = "at work …";
      setInterval(async () => {
        const now = await jugaad.get("/api/standing/progress");
        if (now.running) this.said = now.done + " of " + now.total;
      }, 700);
    },
  }));
});
