/** A test that takes long and looks at what shorter ones look at too, or at endurance: `npm run nightly` runs it. */
export const nightly = process.env.NIGHTLY ? test : test.skip;
