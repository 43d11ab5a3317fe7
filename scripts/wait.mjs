// Waits until an address answers. Usage: node scripts/wait.mjs URL SECONDS
const [url, seconds] = process.argv.slice(2);
const until = Date.now() + Number(seconds) * 1000;
while (Date.now() < until) {
  const answered = await fetch(url).then(
    (r) => r.ok,
    () => false,
  );
  if (answered) process.exit(0);
  await new Promise((r) => setTimeout(r, 80));
}
process.exit(1);
