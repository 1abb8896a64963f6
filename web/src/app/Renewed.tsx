import { useState, type ReactElement } from "react";
import { useRenewed } from "../offline/worker";
import { Button } from "../parts/Button";
import { Mark } from "../parts/Mark";

/** Says that this page is older than the Bilge that answers it, with the way to the newer one. */
export function Renewed(): ReactElement | null {
  const renewed = useRenewed();
  const [later, setLater] = useState(false);
  if (!renewed || later) return null;
  return (
    <p
      role="status"
      className="fixed inset-x-0 bottom-0 z-40 flex flex-wrap items-center justify-center gap-3 border-t-2 border-ink bg-panel px-4 py-2 text-[14px]"
    >
      <Mark state="caution" size={16} />
      Bilge was renewed since this page was opened.
      <Button onClick={() => window.location.reload()}>Open the new one</Button>
      <Button look="bare" onClick={() => setLater(true)}>
        Later
      </Button>
    </p>
  );
}
