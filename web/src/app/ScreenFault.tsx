import { Component, type ReactNode } from "react";
import { Waiting } from "../parts/Notice";

/** A screen that could not be fetched or drawn says so, and leaves head and rail as they are. */
export class ScreenFault extends Component<{ children: ReactNode }, { fault: string | null }> {
  override state: { fault: string | null } = { fault: null };

  static getDerivedStateFromError(error: unknown): { fault: string } {
    return { fault: error instanceof Error ? error.message : "It does not say why." };
  }

  override render(): ReactNode {
    const { fault } = this.state;
    if (fault === null) return this.props.children;
    return <Waiting error={fault} what="the screen" onRetry={() => window.location.reload()} />;
  }
}
