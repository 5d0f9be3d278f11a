import { useLocation, useNavigate } from "react-router";
import { Join } from "./Join";

/** Somebody who is signed in opens the link of an invitation: they come into that house too, by their password. */
export function JoinAnother() {
  const go = useNavigate();
  const { hash } = useLocation();
  return <Join given={hash.slice(1)} signsInHere onBack={() => void go("/shift", { replace: true })} />;
}
