import { test } from "@playwright/test";
import { abuse } from "../e2e/abuse";

/** Pictures, and how often each is ended: 300 in all unless told otherwise. */
const PICTURES = Number(process.env.PICTURES ?? 10);
const ROUNDS = Number(process.env.ROUNDS ?? 30);

for (let seed = 1; seed <= PICTURES; seed++)
  test(`picture ${seed}: ${ROUNDS} reloads, closed tabs and kills lose nothing`, async ({
    baseURL,
  }, info) => {
    const { args = [] } = info.project.use.launchOptions ?? {};
    await abuse({ address: baseURL ?? "", args, rounds: ROUNDS, seed });
  });
