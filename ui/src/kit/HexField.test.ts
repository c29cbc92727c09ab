import { equal, test } from "../testing";
import { readHex } from "./HexField";

test("a colour is read as style guides give it, and nothing else is one", () => {
  equal(["#24a", "2244AA", " #2244aa "].map(readHex), ["#2244aa", "#2244aa", "#2244aa"]);
  equal(["", "#22", "#2244a", "#2244aa80", "blue", "#xyzxyz"].map(readHex), Array(6).fill(undefined));
});
