// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, renderHook, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { EditableName } from "./EditableName";
import { FileButton } from "./FileButton";
import { Guarded } from "./Guarded";
import { useSettled } from "./useSettled";
import { useStable } from "./useStable";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe("a name that is changed where it stands", () => {
  const named = () => {
    const onName = vi.fn();
    render(<EditableName name="Mandarin fizz" label="The drink's name" onName={onName} />);
    fireEvent.click(screen.getByRole("button", { name: "Mandarin fizz" }));
    const field = screen.getByRole("textbox", { name: "The drink's name" });
    const type = (value: string) => fireEvent.change(field, { target: { value } });
    return { onName, field, type };
  };

  it("is taken without the spaces around it", () => {
    const { onName, field, type } = named();
    type("  Bergamot fizz ");
    fireEvent.keyDown(field, { key: "Enter" });
    expect(onName.mock.calls).toEqual([["Bergamot fizz"]]);
    expect(screen.queryByRole("textbox")).toBeNull();
  });

  it("stays where it is emptied, left alone or given up", () => {
    for (const [value, key] of [
      ["   ", "Enter"],
      ["Mandarin fizz", "Enter"],
      ["Something else", "Escape"],
    ]) {
      const { onName, field, type } = named();
      type(value!);
      fireEvent.keyDown(field, { key: key! });
      expect(onName, value).not.toHaveBeenCalled();
      cleanup();
    }
  });
});

describe("a button that asks for a file", () => {
  it("gives each file on, the same one twice if need be, and nothing for none", () => {
    const onFile = vi.fn();
    render(
      <FileButton what="A table" accept=".csv" onFile={onFile}>
        Read one
      </FileButton>,
    );
    const field = screen.getByLabelText<HTMLInputElement>("A table");
    const pressed = vi.spyOn(field, "click");
    fireEvent.click(screen.getByRole("button", { name: "Read one" }));
    expect(pressed).toHaveBeenCalled();
    const table = new File(["drink,day"], "batches.csv");
    const give = (files: File[]) => {
      Object.defineProperty(field, "files", { value: files, configurable: true });
      fireEvent.change(field);
    };
    give([table]);
    give([]);
    give([table]);
    expect(onFile.mock.calls).toEqual([[table], [table]]);
    expect(field.accept).toBe(".csv");
  });
});

describe("a part of the screen that breaks", () => {
  it("says so, leaves the rest standing, and is drawn again when asked", () => {
    vi.spyOn(console, "error").mockImplementation(() => undefined);
    let broken = true;
    const Part = () => {
      if (broken) throw new Error("no such vessel");
      return <p>the lanes</p>;
    };
    render(
      <>
        <p>the amounts</p>
        <Guarded name="this view">
          <Part />
        </Guarded>
      </>,
    );
    screen.getByText("the amounts");
    screen.getByText(/Something broke in this view: no such vessel/);
    broken = false;
    fireEvent.click(screen.getByRole("button", { name: "Reload this view" }));
    screen.getByText("the lanes");
  });
});

describe("a value that is waited for", () => {
  it("counts once it has stayed the same for a while", () => {
    vi.useFakeTimers();
    const view = renderHook(({ value }) => useSettled(value, 200), {
      initialProps: { value: 1 },
    });
    view.rerender({ value: 2 });
    act(() => void vi.advanceTimersByTime(150));
    view.rerender({ value: 3 });
    act(() => void vi.advanceTimersByTime(150));
    expect(view.result.current).toBe(1);
    act(() => void vi.advanceTimersByTime(60));
    expect(view.result.current).toBe(3);
  });

  it("is read by a function that stays the same", () => {
    const view = renderHook(({ by }) => useStable((n: number) => n * by), {
      initialProps: { by: 2 },
    });
    const first = view.result.current;
    view.rerender({ by: 5 });
    expect(view.result.current).toBe(first);
    expect(first(3)).toBe(15);
  });
});
