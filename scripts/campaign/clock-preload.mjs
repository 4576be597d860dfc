// Runs in a worker first: its clock jumps back and forth by hours.
const { now } = Date;
const began = now();
const jumps = [0, 7_200_000, -7_200_000, 86_400_000];
Date.now = () => now() + jumps[Math.floor((now() - began) / 3000) % jumps.length];
