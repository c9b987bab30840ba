/**
 * Common castles of shogi, a line each: English name, Japanese name, and where the pieces stand that make it, from the view of the side whose
 * king it is: a letter and a square by file and rank. The fuller shapes first.
 */
export const CASTLE_SHAPES = `
Kikusui Yagura|菊水矢倉|K89 S88 G78 N77 G67
Full Yagura|総矢倉|K88 G78 G67 S77 S57
Rhombus Yagura|菱矢倉|K88 G78 G67 S77 S66
Gold Yagura|金矢倉|K88 G78 G67 S77
Silver Yagura|銀矢倉|K88 G78 S67 S77
Half Yagura|片矢倉|K78 G68 G67 S77
Doi Yagura|土居矢倉|K78 G67 G58 S77
Matsuo Bear in the Hole|松尾流穴熊|K99 L98 S88 S79 G78
Big Four|ビッグ4|K99 L98 S88 S87 G78 G77
Silver Crown Bear in the Hole|銀冠穴熊|K99 S87 G88
Bear in the Hole|居飛車穴熊|K99 L98 S88
Left Silver Crown|左銀冠|K88 S87 G78 G67
Millennium|ミレニアム|K89 N77 S88 G79 G78
High Left Mino|左高美濃|K88 S78 G69 G67
Left Mino|左美濃|K88 S78 G69
Castle Tower Mino|天守閣美濃|K87 S78 G69
Elmo Castle|エルモ囲い|K78 S68 G79
Boxed Maiden|箱入り娘|K78 S79 G69 G68
Boat Castle|舟囲い|K78 S79 G69 G58
Strawberry Castle|いちご囲い|K68 G78 G58
Crab Castle|カニ囲い|K69 G78 G58 S68
Snow Roof Castle|雁木囲い|G78 G58 S67 S57
Nakahara Castle|中原囲い|K69 G78 G59 S48
Central House|中住まい|K58 G78 G38 S48
Right King|右玉|K38 G48 R29
Diamond Mino|ダイヤモンド美濃|K28 S38 S47 G49 G58
Silver Crown|銀冠|K28 S27 G38 G47
High Mino|高美濃|K28 S38 G49 G47
Mino|本美濃|K28 S38 G49 G58
Half Mino|片美濃囲い|K28 S38 G49
Kimura Mino|木村美濃|K28 G38 S47
Gold Mino|金美濃|K28 G38 G49
Paired Golds|金無双|K38 S28 G48 G58
Ranging Silver Crown Bear in the Hole|振り飛車銀冠穴熊|K19 S27 G28
Ranging Bear in the Hole|振り飛車穴熊|K19 L18 S28
Early Castle|早囲い|K38 S48 G49 G58
`;

/**
 * Common openings of shogi, from the view of the side that plays them. Small letters are the other side's pieces, `-27` is an empty square, `B*` a
 * piece in hand; a number at the end: by so many half moves, where a shape means it only so early. The more special ones first.
 */
export const OPENING_SHAPES = `
Pac-Man Opening|パックマン戦法|P76 p44 b22 -45|2
Ureshino Opening|嬉野流|S68 P77 P27 P57|3
Yonenaga King Opening|新米長玉|K48 P27 P37 P47 P57|3
Demon Slayer|鬼殺し|N65 P76 B88|9
Wrong-Diagonal Bishop|筋違い角|B45 b*|7
Early Ishida|早石田|R78 P75|10
Ishida Opening|石田流|R76 P75
Fujii System|藤井システム|R68 K59 S38 G49
Direct Opposing Rook|ダイレクト向かい飛車|R88 B* b*
Bishop Exchange Fourth-File Rook|角交換四間飛車|R68 B* b*
Bishop Exchange Third-File Rook|角交換三間飛車|R78 B* b*
Bishop Exchange Central Rook|角交換中飛車|R58 B* b*
Left-King Central Rook|中飛車左穴熊|R58 K99
Cheerful Central Rook|ゴキゲン中飛車|R58 P55 P76 P67
Central Rook|中飛車|R58
Fourth-File Rook|四間飛車|R68
Third-File Rook|三間飛車|R78
Opposing Rook|向かい飛車|R88
Side Pawn Capture|横歩取り|R34 P76
Tempo-Loss Bishop Exchange|一手損角換わり|B* b* P26 -25 p84 -85 R28 r82 S88
Bishop Exchange, Reclining Silver|角換わり腰掛け銀|B* b* S56 R28
Bishop Exchange, Reclining Silver, Rook Down|角換わり腰掛け銀（2九飛）|B* b* S56 R29
Bishop Exchange, Climbing Silver|角換わり棒銀|B* b* S26 R28
Bishop Exchange, Rushing Silver|角換わり早繰り銀|B* b* S46 R28
Bishop Exchange|角換わり|B* b* R28 r82
Right Fourth-File Rook|右四間飛車|R48 S56 P46
Sleeve Rook|袖飛車|R38
Yagura, Rushing Silver|矢倉早繰り銀|S77 P66 S46 R28
Yagura, Climbing Silver|矢倉棒銀|S77 P66 S26 R28
Yagura, Sparrow Spear|雀刺し|S77 P66 R18
Yagura|矢倉|S77 P66 R28
Snow Roof|雁木|S67 P66 G78 R28
Twisted Rook|ひねり飛車|R76 -27 P77
Double Wing Attack, Climbing Silver|相掛かり棒銀|P77 p33 S27 -25 r82
Double Wing Attack, Floating Rook|相掛かり浮き飛車|P77 p33 R26 -25 r82
Double Wing Attack|相掛かり|P25 p85 P77 p33 R28 r82
Climbing Silver|棒銀|S26 R28
`;
