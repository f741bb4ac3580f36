// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, it, vi } from "vitest";
import { orComplain, useComplaints } from "../api/complaints";
import { DeleteButton } from "./DeleteButton";
import { Radios } from "./Radios";
import { Unloaded } from "./Unloaded";
import { useFocusBack } from "./useFocusBack";

afterEach(() => {
  cleanup();
  useComplaints.getState().complain("");
});

it("deletes only what was said twice, and keeps the focus in its place", () => {
  const gone = vi.fn();
  render(<DeleteButton onDelete={gone}>Delete the picture</DeleteButton>);
  fireEvent.click(screen.getByRole("button", { name: "Delete the picture" }));
  expect(gone).not.toHaveBeenCalled();
  const keep = screen.getByRole("button", { name: "Keep" });
  expect(document.activeElement).toBe(keep);
  fireEvent.click(keep);
  const again = screen.getByRole("button", { name: "Delete the picture" });
  expect(document.activeElement).toBe(again);
  fireEvent.click(again);
  fireEvent.click(screen.getByRole("button", { name: "Yes, delete" }));
  expect(gone).toHaveBeenCalledOnce();
});

/** A part of a screen that says nothing of its own when it can't be had. */
function Part({ ask, shared }: { ask: () => Promise<string>; shared: boolean }) {
  const { data } = useQuery({ queryKey: ["part", shared], queryFn: ask, meta: { shared } });
  return <p>{data ?? "nothing"}</p>;
}

function within(client: QueryClient, parts: React.ReactNode) {
  render(
    <QueryClientProvider client={client}>
      <Unloaded />
      {parts}
    </QueryClientProvider>,
  );
}

const client = () => new QueryClient({ defaultOptions: { queries: { retry: false } } });

it("says what of a screen couldn't be had, and asks again", async () => {
  let away = true;
  const ask = () =>
    away ? Promise.reject(new Error("Nobody answers.")) : Promise.resolve("there");
  within(client(), <Part ask={ask} shared />);
  await screen.findByText(/couldn't load part of this screen.*Nobody answers/);
  away = false;
  fireEvent.click(screen.getByRole("button", { name: "Try again" }));
  await screen.findByText("there");
  await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
});

it("takes nothing away, and says nothing, when only asking anew has failed", async () => {
  let answers = ["there"];
  const queries = client();
  const ask = () => {
    const [answer] = answers;
    return answer ? Promise.resolve(answer) : Promise.reject(new Error("gone"));
  };
  within(queries, <Part ask={ask} shared />);
  await screen.findByText("there");
  answers = [];
  await act(() => queries.invalidateQueries());
  expect(screen.getByText("there")).toBeDefined();
  expect(screen.queryByRole("alert")).toBeNull();
});

it("leaves it to a part that says so by itself", async () => {
  const ask = vi.fn(() => Promise.reject(new Error("Nobody answers.")));
  within(client(), <Part ask={ask} shared={false} />);
  await waitFor(() => expect(ask).toHaveBeenCalled());
  await act(() => Promise.resolve());
  expect(screen.queryByRole("alert")).toBeNull();
});

it("says what an instrument didn't hear, until it hears again", async () => {
  within(client(), null);
  await act(async () => {
    orComplain(Promise.reject(new Error("The scale is away.")));
    await Promise.resolve();
  });
  await screen.findByText("The scale is away.");
  await act(async () => {
    orComplain(Promise.resolve());
    await Promise.resolve();
  });
  await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
});

it("goes along a choice by arrow keys, is one stop of the Tab key, and chooses nothing on the way", () => {
  const chosen = vi.fn();
  render(
    <Radios label="How sweet">
      {["too sour", "right", "too sweet"].map((word) => (
        <button
          key={word}
          role="radio"
          aria-checked={word === "right"}
          onClick={() => chosen(word)}
        >
          {word}
        </button>
      ))}
    </Radios>,
  );
  const [sour, right, sweet] = screen.getAllByRole("radio") as [
    HTMLElement,
    HTMLElement,
    HTMLElement,
  ];
  expect([sour.tabIndex, right.tabIndex, sweet.tabIndex]).toEqual([-1, 0, -1]);
  right.focus();
  fireEvent.keyDown(right, { key: "ArrowRight" });
  expect(document.activeElement).toBe(sweet);
  fireEvent.keyDown(sweet, { key: "ArrowDown" });
  expect(document.activeElement).toBe(sour);
  expect([sour.tabIndex, right.tabIndex]).toEqual([0, -1]);
  expect(chosen).not.toHaveBeenCalled();
  fireEvent.click(sour);
  expect(chosen).toHaveBeenCalledWith("too sour");
});

/** Something that is opened and closed beside a button. */
function Opened() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button onClick={() => setOpen(true)}>open</button>
      {open && <Panel onClose={() => setOpen(false)} />}
    </>
  );
}

function Panel({ onClose }: { onClose: () => void }) {
  const panel = useFocusBack();
  return (
    <div ref={panel}>
      <button onClick={onClose}>close</button>
    </div>
  );
}

it("puts the focus back where a panel was opened from", () => {
  render(<Opened />);
  const open = screen.getByRole("button", { name: "open" });
  open.focus();
  fireEvent.click(open);
  const close = screen.getByRole("button", { name: "close" });
  close.focus();
  fireEvent.click(close);
  expect(document.activeElement).toBe(open);
});
