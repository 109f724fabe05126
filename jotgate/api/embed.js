// Gives every frame with a page of this office the height of what is in it. No third party, no
// cookie; nothing but a height comes from the frame.
(() => {
  const origin = new URL(document.currentScript.src).origin;
  addEventListener("message", ({ data, origin: from, source }) => {
    const height = Number(data?.jotgate?.height);
    if (from !== origin || !(height > 0 && height < 100000)) return;
    for (const frame of document.querySelectorAll("iframe")) {
      if (frame.contentWindow === source) frame.style.height = `${Math.ceil(height)}px`;
    }
  });
})();
