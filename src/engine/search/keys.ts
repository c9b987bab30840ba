/** SplitMix64 (Steele, Lea and Flood 2014): the random numbers behind the hash keys. */
let state: u64 = 0x62656b747261;

export function nextKey(): u64 {
  state += 0x9e3779b97f4a7c15;
  let z: u64 = state;
  z = (z ^ (z >> 30)) * 0xbf58476d1ce4e5b9;
  z = (z ^ (z >> 27)) * 0x94d049bb133111eb;
  return z ^ (z >> 31);
}

export function fillKeys(table: StaticArray<u64>, count: i32): void {
  for (let i = 0; i < count; i++) table[i] = nextKey();
}
