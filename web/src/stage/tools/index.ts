import { beadTool } from './bead-tool.ts';
import { controlTool } from './control-tool.ts';
import { handleTool } from './handle-tool.ts';
import { pickTool } from './pick-tool.ts';
import type { Hands, StageTool } from './tool.ts';
import { wayTool } from './way-tool.ts';

export type { Grab, Hands, Pointer, StageTool, Under } from './tool.ts';

/** All tools, those first that come first under a pointer. */
const TOOLS = [wayTool, handleTool, controlTool, beadTool, pickTool];

export const makeTools = (hands: Hands): StageTool[] => TOOLS.map((make) => make(hands));
