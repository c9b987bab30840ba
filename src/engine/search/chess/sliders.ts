/**
 * Attacks of rooks and bishops, looked up: what stands in the way, times a number tried out for the square (a perfect
 * hash), gives the place of the attacks in a table.
 */
const ROOK_FACTORS = StaticArray.fromArray<u64>([
  0x80008d20114000, 0x40004020001000, 0x100082000104100, 0x4880080280100004,
  0x200080200201004, 0x1800c0005020080, 0xa00084200008104, 0x8001a341800900,
  0x2800080400024, 0x4141804000802008, 0x510802000801008, 0xa200200a004010,
  0x8404800800800400, 0x8002000408100200, 0x9030001000a0004, 0x1000c82035100,
  0x208000400080, 0x1010084000402008, 0x1010110040200100, 0x1010008080100800,
  0x4001010010080004, 0x80104104020, 0x81404001001c208, 0x940a0000409104,
  0x3240800480204002, 0x840008880200040, 0x2220004040100800, 0x21a080080801000,
  0x800b002700180010, 0x22c1000300180c00, 0x40101000200, 0x850048200005904,
  0x2440008040800020, 0x110042014400040, 0x100801000802004, 0x6a00800800801000,
  0x4016040280800800, 0x8002000402001009, 0x20884004110, 0x419108c02000841,
  0x800420081020024, 0x20100020404000, 0x3000200041090010, 0x110042009010010,
  0x1602000804120020, 0x100040002008080, 0x6002020001008080, 0x910301408a0014,
  0x4520c8102402200, 0x8060100040002040, 0x190040200100, 0x4000100008008080,
  0x8d88008004000880, 0x8004000200800480, 0x804210c1080400, 0x1001004421008200,
  0x410a800100102241, 0x1009608291004001, 0x4001093041a00101, 0x2002040108886,
  0x2000844205082, 0xf000208040001, 0x1920008208100104, 0x2000010400244c82,
]);

const BISHOP_FACTORS = StaticArray.fromArray<u64>([
  0x40300102102249, 0x4004300092008411, 0x808821400240044, 0x4040090040a29,
  0x1410a800900c00, 0x2012088444000000, 0x1800442220104008, 0x1800420041084014,
  0x23040480800c090, 0x89020828308480, 0x24080820409000, 0x22082000001,
  0x1028c1420001002, 0x8000108210c03800, 0x180011808020828, 0x3002210088118800,
  0x8018419085808, 0x208202041c1480, 0x2001000801100, 0x40100302400810c,
  0x22206400a00400, 0x814800100602220, 0x6004080084040301, 0x111a280420a3040,
  0x4010408088020400, 0x2100108010844, 0x18020c01040100, 0x4100a8010900,
  0x81010010104010, 0x808108080400, 0x838004025800, 0x2204004041005240,
  0x80490c00c880200, 0x1a8096860840820, 0x24004810210200, 0x1000040400080120,
  0x428120400101100, 0x5084101080014801, 0x80040804400a1141, 0x8020920880404400,
  0xc010821040001002, 0x8005010852022080, 0x2001048040400, 0x9882824200800803,
  0x224202009021084, 0x2040350440800100, 0x442408c819000040, 0x1012412880900,
  0xe00440208408406, 0x2000822110220040, 0x2201100421, 0x449100320980080,
  0x8002004005010402, 0x2808081001020802, 0x10101021104004, 0x300400a4005013,
  0x21088080a01000, 0x4040020200a21900, 0x1e0042080400, 0x288001040208800,
  0x20028312401, 0x1209040822380200, 0x10a9041124010400, 0xb024208420c0040,
]);

/** By square, for rooks and then for bishops: the squares that can stand in the way, the factor, the shift, the first place in the table. */
const HASHES = new StaticArray<u64>(2 * 64 * 4);
const BISHOPS: i32 = 64;
const ATTACKS = new StaticArray<u64>(107648);

const FILE_EDGES: u64 = 0x8181818181818181;
const RANK_EDGES: u64 = 0xff000000000000ff;

/** Squares from one on in a direction, up to and with the first of `all`. */
function walk(square: i32, file: i32, rank: i32, all: u64): u64 {
  let found: u64 = 0;
  let f = (square & 7) + file;
  let r = (square >> 3) + rank;
  for (; f >= 0 && f < 8 && r >= 0 && r < 8; f += file, r += rank) {
    const here = (<u64>1) << (<u64>(f | (r << 3)));
    found |= here;
    if ((all & here) != 0) break;
  }
  return found;
}

function walkAll(slot: i32, all: u64): u64 {
  const square = slot & 63;
  if (slot < BISHOPS)
    return walk(square, 0, 1, all) | walk(square, 1, 0, all) | walk(square, 0, -1, all) | walk(square, -1, 0, all);
  return walk(square, 1, 1, all) | walk(square, 1, -1, all) | walk(square, -1, 1, all) | walk(square, -1, -1, all);
}

export function initSliders(): void {
  let next: i32 = 0;
  for (let slot = 0; slot < 128; slot++) {
    const square = <u64>(slot & 63);
    const files = FILE_EDGES & ~((<u64>0x0101010101010101) << (square & 7));
    const ranks = RANK_EDGES & ~((<u64>0xff) << (square & 56));
    const inTheWay = walkAll(slot, 0) & ~files & ~ranks;
    HASHES[slot << 2] = inTheWay;
    HASHES[(slot << 2) | 1] = slot < BISHOPS ? ROOK_FACTORS[slot] : BISHOP_FACTORS[slot - BISHOPS];
    HASHES[(slot << 2) | 2] = 64 - popcnt(inTheWay);
    HASHES[(slot << 2) | 3] = next;
    let some: u64 = 0;
    do {
      ATTACKS[placeOf(slot, some)] = walkAll(slot, some);
      some = (some - inTheWay) & inTheWay;
    } while (some != 0);
    next += 1 << <i32>popcnt(inTheWay);
  }
}

// @ts-ignore: decorator
@inline function placeOf(slot: i32, all: u64): i32 {
  const hash = slot << 2;
  return <i32>((((all & HASHES[hash]) * HASHES[hash | 1]) >> HASHES[hash | 2]) + HASHES[hash | 3]);
}

// @ts-ignore: decorator
@inline export function rookAttacks(square: i32, all: u64): u64 {
  return ATTACKS[placeOf(square, all)];
}

// @ts-ignore: decorator
@inline export function bishopAttacks(square: i32, all: u64): u64 {
  return ATTACKS[placeOf(BISHOPS | square, all)];
}
