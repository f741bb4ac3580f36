import Button from "@mui/material/Button";
import { Component, type ReactNode } from "react";
import { Note } from "./Note";

interface GuardedProps {
  /** What it is that may break: "this view". */
  name: string;
  children: ReactNode;
}

/** Keeps a fault in one part of the screen from taking the rest with it. */
export class Guarded extends Component<GuardedProps, { fault: Error | undefined }> {
  override state: { fault: Error | undefined } = { fault: undefined };

  static getDerivedStateFromError(fault: Error) {
    return { fault };
  }

  override componentDidCatch(fault: Error) {
    console.error(fault);
  }

  override render() {
    if (!this.state.fault) return this.props.children;
    return (
      <Note
        kind="stop"
        action={
          <Button onClick={() => this.setState({ fault: undefined })}>Reload this view</Button>
        }
      >
        Something broke in {this.props.name}: {this.state.fault.message}. Your data is safe.
      </Note>
    );
  }
}
