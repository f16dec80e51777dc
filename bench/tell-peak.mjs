// Imported before a program: tells the most memory it held, in kilobytes, when it ends.
process.once('exit', () => process.stderr.write(`peak ${process.resourceUsage().maxRSS}\n`));
