import { Suspense } from "react";
import { BrowserRouter, Navigate, Route, Routes } from "react-router";
import { Shape } from "../parts/Notice";
import { JoinAnother } from "../session/JoinAnother";
import { PasswordAsk } from "../session/PasswordAsk";
import { SessionGate } from "../session/session";
import { QuickSumsProvider } from "../views/sums/useQuickSums";
import { lazyPlace } from "./newVersion";
import { Shell } from "./Shell";

const ShiftView = lazyPlace(() => import("../views/shift/ShiftView").then((m) => ({ default: m.ShiftView })));
const StoresView = lazyPlace(() => import("../views/stores/StoresView").then((m) => ({ default: m.StoresView })));
const CountView = lazyPlace(() => import("../views/stores/count/CountView").then((m) => ({ default: m.CountView })));
const ManyView = lazyPlace(() => import("../views/stores/many/ManyView").then((m) => ({ default: m.ManyView })));
const SpecsView = lazyPlace(() => import("../views/specs/library/SpecsView").then((m) => ({ default: m.SpecsView })));
const ReaderView = lazyPlace(() => import("../views/specs/reader/ReaderView").then((m) => ({ default: m.ReaderView })));
const WorkbenchView = lazyPlace(() => import("../views/specs/workbench/WorkbenchView").then((m) => ({ default: m.WorkbenchView })));
const VersionsView = lazyPlace(() => import("../views/specs/versions/VersionsView").then((m) => ({ default: m.VersionsView })));
const CompareView = lazyPlace(() => import("../views/specs/versions/CompareView").then((m) => ({ default: m.CompareView })));
const CardView = lazyPlace(() => import("../views/specs/card/CardView").then((m) => ({ default: m.CardView })));
const MakeView = lazyPlace(() => import("../views/make/MakeView").then((m) => ({ default: m.MakeView })));
const CaptureView = lazyPlace(() => import("../views/make/capture/CaptureView").then((m) => ({ default: m.CaptureView })));
const InstrumentsView = lazyPlace(() => import("../views/make/instruments/InstrumentsView").then((m) => ({ default: m.InstrumentsView })));
const ContainersView = lazyPlace(() => import("../views/make/containers/ContainersView").then((m) => ({ default: m.ContainersView })));
const BenchView = lazyPlace(() => import("../views/make/bench/BenchView").then((m) => ({ default: m.BenchView })));
const CitrusView = lazyPlace(() => import("../views/citrus/CitrusView").then((m) => ({ default: m.CitrusView })));
const HouseView = lazyPlace(() => import("../views/house/HouseView").then((m) => ({ default: m.HouseView })));
const TasteView = lazyPlace(() => import("../views/taste/TasteView").then((m) => ({ default: m.TasteView })));
const NewPanelView = lazyPlace(() => import("../views/taste/plan/NewPanelView").then((m) => ({ default: m.NewPanelView })));
const PanelView = lazyPlace(() => import("../views/taste/PanelView").then((m) => ({ default: m.PanelView })));
const PourView = lazyPlace(() => import("../views/taste/pour/PourView").then((m) => ({ default: m.PourView })));
const StandardView = lazyPlace(() => import("../views/taste/standards/StandardView").then((m) => ({ default: m.StandardView })));
const SeatView = lazyPlace(() => import("../views/taste/seat/SeatView").then((m) => ({ default: m.SeatView })));
const PlanView = lazyPlace(() => import("../views/plan/PlanView").then((m) => ({ default: m.PlanView })));
const LotView = lazyPlace(() => import("../views/lots/LotView").then((m) => ({ default: m.LotView })));

/** Every address and the place that answers it. A taster's phone is nobody's: no sign-in stands before its seat. */
export function App() {
  return (
    <BrowserRouter>
      <Suspense fallback={<Shape />}>
        <Routes>
          <Route path="taste/seat" element={<SeatView />} />
          <Route path="*" element={<Places />} />
        </Routes>
      </Suspense>
    </BrowserRouter>
  );
}

/** The places of a house, for whoever is signed in. */
function Places() {
  return (
    <SessionGate>
      <QuickSumsProvider>
        <PasswordAsk />
        <Suspense fallback={<Shape />}>
          <Routes>
            <Route path="make/:run" element={<BenchView />} />
            <Route path="join" element={<JoinAnother />} />
            <Route element={<Shell />}>
              <Route index element={<Navigate to="/shift" replace />} />
              <Route path="shift" element={<ShiftView />} />
              <Route path="stores/many" element={<ManyView />} />
              <Route path="stores/count" element={<CountView />} />
              <Route path="stores/:code?" element={<StoresView />} />
              <Route path="specs" element={<SpecsView />} />
              <Route path="specs/read" element={<ReaderView />} />
              <Route path="specs/:spec" element={<WorkbenchView />} />
              <Route path="specs/:spec/versions" element={<VersionsView />} />
              <Route path="specs/:spec/compare" element={<CompareView />} />
              <Route path="specs/:spec/card" element={<CardView />} />
              <Route path="make" element={<MakeView />} />
              <Route path="make/capture" element={<CaptureView />} />
              <Route path="make/instruments" element={<InstrumentsView />} />
              <Route path="make/containers" element={<ContainersView />} />
              <Route path="citrus" element={<CitrusView />} />
              <Route path="citrus/:part" element={<CitrusView />} />
              <Route path="taste" element={<TasteView />} />
              <Route path="taste/new" element={<NewPanelView />} />
              <Route path="taste/standards/:standard" element={<StandardView />} />
              <Route path="taste/:panel" element={<PanelView />} />
              <Route path="taste/:panel/pour" element={<PourView />} />
              <Route path="plan/:part?" element={<PlanView />} />
              <Route path="lots/:code" element={<LotView />} />
              <Route path="house/:part?" element={<HouseView />} />
              <Route path="*" element={<Navigate to="/shift" replace />} />
            </Route>
          </Routes>
        </Suspense>
      </QuickSumsProvider>
    </SessionGate>
  );
}
