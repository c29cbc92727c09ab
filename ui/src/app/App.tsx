import { lazy, Suspense, useEffect, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, Route, Routes, useLocation } from "react-router";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf, session } from "../api/client";
import { Boundary } from "../kit/Boundary";
import { Notices } from "../kit/Notices";
import { Said } from "../kit/Said";
import { Shelf } from "../shelf/Shelf";
import { SignIn, SignInAgain } from "./SignIn";

const Workbench = lazy(() => import("../workbench/Workbench").then((m) => ({ default: m.Workbench })));
const SeriesView = lazy(() => import("../series/SeriesView").then((m) => ({ default: m.SeriesView })));
const RoomView = lazy(() => import("./RoomView").then((m) => ({ default: m.RoomView })));
const Replay = lazy(() => import("../outcomes/Replay").then((m) => ({ default: m.Replay })));
const LearnersData = lazy(() => import("../learners/LearnersData").then((m) => ({ default: m.LearnersData })));
const People = lazy(() => import("../people/People").then((m) => ({ default: m.People })));
const Account = lazy(() => import("../people/Account").then((m) => ({ default: m.Account })));
const Join = lazy(() => import("../people/Join").then((m) => ({ default: m.Join })));
const Platforms = lazy(() => import("../platforms/Platforms").then((m) => ({ default: m.Platforms })));
const Releases = lazy(() => import("../release/Releases").then((m) => ({ default: m.Releases })));

/** What single-use addresses lead to is for whoever has them, signed in or not. */
export function App() {
  return (
    <Routes>
      <Route
        path="/join/:token"
        element={
          <Boundary what={t`This page`}>
            <Suspense fallback={<p className="p-8 text-slate">{t`Opening…`}</p>}>
              <Join />
            </Suspense>
          </Boundary>
        }
      />
      <Route path="*" element={<Inside />} />
    </Routes>
  );
}

/** The designer's side: who is signed in, and which view. */
function Inside() {
  const me = useQuery({ queryKey: ["me"], queryFn: () => ask(api.GET("/api/me")) });
  const queries = useQueryClient();
  const place = useLocation();
  const [over, setOver] = useState(false);
  const signedIn = me.isSuccess;
  useEffect(() => {
    session.onOver = () => setOver(signedIn); // who has not signed in yet is asked anyway
  }, [signedIn]);
  if (me.isPending) return <p className="p-8 text-slate">{t`Opening…`}</p>;
  if (me.isError) {
    const problem = problemOf(me.error);
    if (problem.status === 401) return <SignIn />;
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problem} />
      </main>
    );
  }
  return (
    <>
      <Boundary what={t`This view`} resetKeys={[place.pathname]}>
        <Suspense fallback={<p className="p-8 text-slate">{t`Opening…`}</p>}>
          <Routes>
            <Route path="/" element={<Shelf me={me.data} />} />
            <Route path="/activity/:id" element={<Workbench me={me.data} />} />
            <Route path="/activity/:id/releases" element={<Releases me={me.data} />} />
            <Route path="/activity/:id/releases/:release/sittings/:sitting" element={<Replay />} />
            <Route path="/activity/:id/room" element={<RoomView />} />
            <Route path="/people" element={<People me={me.data} />} />
            <Route path="/platforms" element={<Platforms me={me.data} />} />
            <Route path="/account" element={<Account me={me.data} />} />
            <Route path="/learners" element={<LearnersData me={me.data} />} />
            <Route path="/series/:id" element={<SeriesView me={me.data} />} />
            <Route
              path="*"
              element={
                <main className="p-8">
                  <h1 className="text-xl">{t`Page not found`}</h1>
                  <Link to="/" className="text-feather underline">
                    {t`Back to the shelf`}
                  </Link>
                </main>
              }
            />
          </Routes>
        </Suspense>
      </Boundary>
      {over && (
        <SignInAgain
          me={me.data}
          onDone={() => {
            setOver(false);
            void queries.invalidateQueries({ predicate: (q) => q.state.status === "error" });
          }}
        />
      )}
      <Notices />
    </>
  );
}
