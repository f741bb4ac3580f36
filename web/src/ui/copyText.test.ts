// @vitest-environment happy-dom
import { afterEach, expect, it, vi } from "vitest";
import { copyText } from "./copyText";

afterEach(() => vi.unstubAllGlobals());

it("copies by the clipboard where there is one, and says when it wasn't allowed", async () => {
  const writeText = vi.fn().mockResolvedValueOnce(undefined).mockRejectedValueOnce(new Error("no"));
  vi.stubGlobal("navigator", { clipboard: { writeText } });
  expect(await copyText("6 lemons")).toBe(true);
  expect(writeText).toHaveBeenCalledWith("6 lemons");
  expect(await copyText("6 lemons")).toBe(false);
});

it("copies as by hand where the page came without encryption, and leaves nothing behind", async () => {
  vi.stubGlobal("navigator", {});
  let copied = "";
  document.execCommand = () => {
    copied = document.querySelector("textarea")?.value ?? "";
    return true;
  };
  expect(await copyText("6 lemons\n190 g sugar")).toBe(true);
  expect(copied).toBe("6 lemons\n190 g sugar");
  expect(document.querySelector("textarea")).toBeNull();
});
