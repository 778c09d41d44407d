// Files of SVG, one JSON list on the standard input, as the optimiser would write them: at the decimals of ours, and
// without drawing curves anew as arcs, which would move them.

import { readFileSync } from "node:fs";
import { optimize } from "svgo";

const floatPrecision = Number(process.argv[2]);
const plugins = [{ name: "convertPathData", params: { floatPrecision, makeArcs: false } }];
const files = JSON.parse(readFileSync(0, "utf8"));
process.stdout.write(JSON.stringify(files.map((file) => optimize(file, { plugins }).data)));
