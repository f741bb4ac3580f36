import { create } from "zustand";

interface Complaints {
  /** What couldn't be done, in words; empty for nothing. */
  text: string;
  complain: (text: string) => void;
}

/** What failed where no field or button could say so: a setting, a word to an instrument. */
export const useComplaints = create<Complaints>((set) => ({
  text: "",
  complain: (text) => set({ text }),
}));

/** Tells that this failed, if it does. */
export function orComplain(work: Promise<unknown>) {
  work.then(
    () => useComplaints.getState().complain(""),
    (error: Error) => useComplaints.getState().complain(error.message),
  );
}
