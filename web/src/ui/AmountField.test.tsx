// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { AmountField } from "./AmountField";

const way = { text: "3/4 cup", value: 0.75, step: 0.25, unit: "cups" };
vi.mock("./reading", () => ({
  readAs: (_: string, text: string) =>
    Promise.resolve(
      text === "1,500 g"
        ? { unread: { message: "A thousand or a decimal?", choices: ["1500 g", "1.5 g"] } }
        : { read: { text: text.trim(), number: null, understood: null } },
    ),
}));
const onChange = vi.fn();
const onRest = vi.fn();
const onType = vi.fn<(text: string) => Promise<string | undefined>>();

beforeEach(() => {
  vi.clearAllMocks();
  onType.mockResolvedValue(undefined);
  HTMLElement.prototype.setPointerCapture = () => undefined;
  render(
    <AmountField
      of="white sugar"
      way={way as never}
      onChange={onChange}
      onRest={onRest}
      onType={onType}
    />,
  );
});
afterEach(cleanup);

const amount = () => screen.getByRole("spinbutton", { name: "Amount of white sugar" });
const field = () => screen.getByRole("textbox", { name: "Amount of white sugar" });
const press = (x: number) => fireEvent.pointerDown(amount(), { pointerId: 1, clientX: x });
const move = (x: number) => fireEvent.pointerMove(amount(), { pointerId: 1, clientX: x });
const lift = () => fireEvent.pointerUp(amount(), { pointerId: 1 });
const begin = () => {
  press(100);
  lift();
};

describe("an amount that is typed", () => {
  it("opens with what stands there, and takes another", async () => {
    begin();
    expect((field() as HTMLInputElement).value).toBe("3/4 cup");
    fireEvent.change(field(), { target: { value: " 1 1/2 cups " } });
    fireEvent.keyDown(field(), { key: "Enter" });
    await waitFor(() => expect(onType).toHaveBeenCalledWith("1 1/2 cups"));
    await waitFor(() => expect(screen.queryByRole("textbox")).toBeNull());
    expect(document.activeElement).toBe(amount());
  });

  it("says what is wrong and keeps what was typed", async () => {
    onType.mockResolvedValue("“cps” is no measure.");
    begin();
    fireEvent.change(field(), { target: { value: "2 cps" } });
    fireEvent.keyDown(field(), { key: "Enter" });
    expect((await screen.findByRole("alert")).textContent).toBe("“cps” is no measure.");
    expect((field() as HTMLInputElement).value).toBe("2 cps");
    expect(field().getAttribute("aria-invalid")).toBe("true");
    fireEvent.change(field(), { target: { value: "2 cups" } });
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("offers both readings where two are possible", async () => {
    begin();
    fireEvent.change(field(), { target: { value: "1,500 g" } });
    fireEvent.keyDown(field(), { key: "Enter" });
    fireEvent.click(await screen.findByRole("button", { name: "1500 g" }));
    await waitFor(() => expect(onType).toHaveBeenCalledWith("1500 g"));
  });

  it("is left as it was by Escape, and asks nothing where nothing was changed", () => {
    begin();
    fireEvent.change(field(), { target: { value: "9 cups" } });
    fireEvent.keyDown(field(), { key: "Escape" });
    expect(amount().getAttribute("aria-valuetext")).toBe("3/4 cup");
    expect(document.activeElement).toBe(amount());
    begin();
    fireEvent.blur(field());
    expect(onType).not.toHaveBeenCalled();
    expect(document.activeElement, "who clicks elsewhere stays there").not.toBe(amount());
  });
});

describe("an amount that is dragged or nudged", () => {
  it("follows the finger by kitchen steps, as one gesture", () => {
    press(100);
    move(102);
    expect(onChange, "a hand that shakes drags nothing").not.toHaveBeenCalled();
    move(114);
    move(115);
    expect(onChange).toHaveBeenCalledTimes(1);
    move(121);
    expect(onChange.mock.calls.map(([text]) => text)).toEqual(["1.25 cups", "1.5 cups"]);
    const [first, second] = onChange.mock.calls.map(([, drag]) => drag);
    expect(first).toBe(second);
    lift();
    expect(onRest).toHaveBeenCalledTimes(1);
    press(100);
    move(121);
    expect(onChange.mock.lastCall![1], "the next drag is another step of undo").not.toBe(first);
  });

  it("never goes under one step, however far it is dragged", () => {
    press(400);
    move(0);
    expect(onChange.mock.lastCall![0]).toBe("0.25 cups");
    fireEvent.keyDown(amount(), { key: "PageDown" });
    expect(onChange.mock.lastCall![0]).toBe("0.25 cups");
  });

  it("is nudged by keys, and leaves those of the browser alone", () => {
    fireEvent.keyDown(amount(), { key: "ArrowUp" });
    fireEvent.keyDown(amount(), { key: "ArrowLeft" });
    fireEvent.keyDown(amount(), { key: "PageUp" });
    fireEvent.keyDown(amount(), { key: "ArrowUp", ctrlKey: true });
    expect(onChange.mock.calls).toEqual([["1 cups"], ["0.5 cups"], ["3.25 cups"]]);
  });

  it("opens nothing when the system takes the finger away", () => {
    press(100);
    fireEvent.pointerCancel(amount(), { pointerId: 1 });
    expect(screen.queryByRole("textbox")).toBeNull();
    expect(document.documentElement.classList.contains("scrubbing")).toBe(false);
  });
});
