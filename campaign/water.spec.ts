import { test } from "@playwright/test";
import { abuseWet } from "../e2e/abuse";

/** Pictures, and how often each is ended while it is wet: 500 in all unless told otherwise. */
const PICTURES = Number(process.env.PICTURES ?? 10);
const ROUNDS = Number(process.env.ROUNDS ?? 50);

for (let seed = 1; seed <= PICTURES; seed++)
  test(`wet picture ${seed}: ${ROUNDS} reloads, closed tabs and kills lose nothing`, async ({
    baseURL,
  }, info) => {
    const { args = [] } = info.project.use.launchOptions ?? {};
    await abuseWet({ address: baseURL ?? "", args, rounds: ROUNDS, seed });
  });
