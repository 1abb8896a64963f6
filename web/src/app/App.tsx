import { useMemo, useState, type ReactElement } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { wordsOf } from "../api/client";
import { useSession, type Session } from "../api/queries";
import { Waiting } from "../parts/Notice";
import { limitsOf } from "../parts/limits";
import { SettingsContext, type Settings } from "../parts/settings";
import { Join } from "../pages/account/Join";
import { SignIn } from "../pages/signin/SignIn";
import { BuildFrame } from "./BuildFrame";
import { fetchAhead, HOME } from "./registry";
import { Renewed } from "./Renewed";
import { RunsPage } from "./RunsPage";
import { ShelfPage } from "./ShelfPage";
import { applyTheme, keepSystem, storedSystem, storedTheme } from "./theme";

function SignedIn({ session }: { session: Session }): ReactElement {
  const [system, setSystem] = useState(storedSystem);
  const [theme, setTheme] = useState(storedTheme);
  const settings = useMemo<Settings>(
    () => ({
      system,
      setSystem: (next) => {
        keepSystem(next);
        setSystem(next);
      },
      units: session.units,
      grades: session.grades,
      inspectionItems: session.inspection_items,
      largestUploadMb: session.largest_upload_mb,
      limits: limitsOf(session.rules),
      theme,
      setTheme: (next) => {
        applyTheme(next);
        setTheme(next);
      },
    }),
    [session, system, theme],
  );
  return (
    <SettingsContext value={settings}>
      <Routes>
        <Route path="/" element={<ShelfPage session={session} />} />
        <Route path="/runs" element={<RunsPage session={session} />} />
        <Route path="/builds/:buildId" element={<Navigate to={HOME} replace />} />
        <Route path="/builds/:buildId/:stage" element={<BuildFrame session={session} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
      <Renewed />
    </SettingsContext>
  );
}

fetchAhead(window.location.pathname);

/** Sign-in, then the shelf and the builds. */
export function App(): ReactElement {
  const session = useSession();
  const { pathname } = useLocation();
  if (pathname === "/join" && session.data !== undefined) return <Join />;
  if (session.data) return <SignedIn session={session.data} />;
  if (session.data === null) return <SignIn />;
  return (
    <Waiting
      error={session.error ? wordsOf(session.error) : null}
      what="who is signed in"
      onRetry={() => void session.refetch()}
    />
  );
}
