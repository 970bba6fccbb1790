/** Unit tests take papers from the files that `npm run kernels` made, as the application does. */
import { bringPapers } from "../src/node/papers";

bringPapers();
