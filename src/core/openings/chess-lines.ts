/** Common openings, a line each: code, English name, Japanese name, and the moves that lead to the position that has the name. */
export const CHESS_LINES = `
A00|Grob Opening|グロブ・オープニング|g4
A00|Polish Opening|ソコルスキー・オープニング|b4
A00|Van Geet Opening|ヴァンヘート・オープニング|Nc3
A00|Saragossa Opening|サラゴサ・オープニング|c3
A00|Mieses Opening|ミーゼス・オープニング|d3
A00|Van't Kruijs Opening|ファントクロイス・オープニング|e3
A00|Benko Opening|ベンコー・オープニング|g3
A00|Anderssen Opening|アンデルセン・オープニング|a3
A01|Nimzowitsch–Larsen Attack|ニムゾヴィッチ・ラルセン・アタック|b3
A01|Nimzowitsch–Larsen Attack, Modern Variation|ニムゾヴィッチ・ラルセン・アタック、モダン・バリエーション|b3 e5
A02|Bird Opening|バード・オープニング|f4
A02|Bird Opening, From Gambit|バード・オープニング、フロム・ギャンビット|f4 e5
A03|Bird Opening, Dutch Variation|バード・オープニング、ダッチ・バリエーション|f4 d5
A04|Réti Opening|レティ・オープニング|Nf3
A04|Réti Opening, Sicilian Invitation|レティ・オープニング、シシリアン誘導|Nf3 c5
A05|Réti Opening, King's Knight Variation|レティ・オープニング、キングズ・ナイト・バリエーション|Nf3 Nf6
A06|Réti Opening, Queen's Pawn Variation|レティ・オープニング、クイーンズ・ポーン・バリエーション|Nf3 d5
A06|Réti Opening, Nimzowitsch–Larsen Variation|レティ・オープニング、ニムゾヴィッチ・ラルセン・バリエーション|Nf3 d5 b3
A07|King's Indian Attack|キングズ・インディアン・アタック|Nf3 d5 g3
A08|King's Indian Attack, with Bg2|キングズ・インディアン・アタック、Bg2型|Nf3 d5 g3 c5 Bg2
A09|Réti Gambit|レティ・ギャンビット|Nf3 d5 c4
A09|Réti Gambit, Advance Variation|レティ・ギャンビット、アドバンス・バリエーション|Nf3 d5 c4 d4
A09|Réti Gambit Accepted|レティ・ギャンビット・アクセプテッド|Nf3 d5 c4 dxc4
A10|English Opening|イングリッシュ・オープニング|c4
A10|English Opening, Anglo-Dutch|イングリッシュ・オープニング、アングロ・ダッチ|c4 f5
A11|English Opening, Caro-Kann Setup|イングリッシュ・オープニング、カロカン型|c4 c6
A13|English Opening, Agincourt Defence|イングリッシュ・オープニング、アジャンクール・ディフェンス|c4 e6
A15|English Opening, Anglo-Indian Defence|イングリッシュ・オープニング、アングロ・インディアン・ディフェンス|c4 Nf6
A16|English Opening, Anglo-Indian with Nc3|イングリッシュ・オープニング、アングロ・インディアンNc3|c4 Nf6 Nc3
A17|English Opening, Hedgehog Setup|イングリッシュ・オープニング、ヘッジホッグ型|c4 Nf6 Nc3 e6
A18|English Opening, Mikenas–Carls Variation|イングリッシュ・オープニング、ミケナス・カールス・バリエーション|c4 Nf6 Nc3 e6 e4
A20|English Opening, King's English|イングリッシュ・オープニング、キングズ・イングリッシュ|c4 e5
A21|English Opening, Reversed Sicilian|イングリッシュ・オープニング、リバースド・シシリアン|c4 e5 Nc3
A22|English Opening, Two Knights Variation|イングリッシュ・オープニング、ツー・ナイツ・バリエーション|c4 e5 Nc3 Nf6
A25|English Opening, Closed Variation|イングリッシュ・オープニング、クローズド・バリエーション|c4 e5 Nc3 Nc6
A27|English Opening, Three Knights Variation|イングリッシュ・オープニング、スリー・ナイツ・バリエーション|c4 e5 Nc3 Nc6 Nf3
A28|English Opening, Four Knights Variation|イングリッシュ・オープニング、フォー・ナイツ・バリエーション|c4 e5 Nc3 Nc6 Nf3 Nf6
A29|English Opening, Four Knights, Fianchetto|イングリッシュ・オープニング、フォー・ナイツ、フィアンケット|c4 e5 Nc3 Nc6 Nf3 Nf6 g3
A30|English Opening, Symmetrical Variation|イングリッシュ・オープニング、シンメトリカル・バリエーション|c4 c5
A34|English Opening, Symmetrical with Nc3|イングリッシュ・オープニング、シンメトリカルNc3|c4 c5 Nc3
A36|English Opening, Symmetrical, Fianchetto|イングリッシュ・オープニング、シンメトリカル、フィアンケット|c4 c5 Nc3 Nc6 g3
A40|Queen's Pawn Game|クイーンズ・ポーン・ゲーム|d4
A40|Englund Gambit|エングルンド・ギャンビット|d4 e5
A40|Modern Defence against d4|モダン・ディフェンス（d4）|d4 g6
A40|Owen Defence against d4|オーウェン・ディフェンス（d4）|d4 b6
A41|Old Indian Setup|オールド・インディアン型|d4 d6
A43|Old Benoni Defence|オールド・ベノニ・ディフェンス|d4 c5
A45|Indian Defence|インディアン・ディフェンス|d4 Nf6
A45|Trompowsky Attack|トロンポフスキー・アタック|d4 Nf6 Bg5
A46|Indian Defence, Knights Variation|インディアン・ディフェンス、ナイツ・バリエーション|d4 Nf6 Nf3
A46|Torre Attack|トーレ・アタック|d4 Nf6 Nf3 e6 Bg5
A46|London System against e6|ロンドン・システム（e6）|d4 Nf6 Nf3 e6 Bf4
A48|London System against the King's Indian|ロンドン・システム（g6）|d4 Nf6 Nf3 g6 Bf4
A48|Torre Attack against the King's Indian|トーレ・アタック（g6）|d4 Nf6 Nf3 g6 Bg5
A50|Indian Defence with c4|インディアン・ディフェンスc4|d4 Nf6 c4
A51|Budapest Gambit|ブダペスト・ギャンビット|d4 Nf6 c4 e5
A51|Budapest Gambit, Fajarowicz Variation|ブダペスト・ギャンビット、ファヤロヴィッチ・バリエーション|d4 Nf6 c4 e5 dxe5 Ne4
A52|Budapest Gambit, Main Line|ブダペスト・ギャンビット本筋|d4 Nf6 c4 e5 dxe5 Ng4
A53|Old Indian Defence|オールド・インディアン・ディフェンス|d4 Nf6 c4 d6
A55|Old Indian Defence, Main Line|オールド・インディアン・ディフェンス本筋|d4 Nf6 c4 d6 Nc3 e5 Nf3 Nbd7 e4
A56|Benoni Defence|ベノニ・ディフェンス|d4 Nf6 c4 c5
A57|Benko Gambit|ベンコー・ギャンビット|d4 Nf6 c4 c5 d5 b5
A58|Benko Gambit Accepted|ベンコー・ギャンビット・アクセプテッド|d4 Nf6 c4 c5 d5 b5 cxb5 a6 bxa6
A60|Modern Benoni|モダン・ベノニ|d4 Nf6 c4 c5 d5 e6
A61|Modern Benoni, Knight Variation|モダン・ベノニ、ナイト・バリエーション|d4 Nf6 c4 c5 d5 e6 Nc3 exd5 cxd5 d6 Nf3
A65|Modern Benoni, King's Pawn Line|モダン・ベノニ、キングズ・ポーン・ライン|d4 Nf6 c4 c5 d5 e6 Nc3 exd5 cxd5 d6 e4
A67|Modern Benoni, Taimanov Variation|モダン・ベノニ、タイマノフ・バリエーション|d4 Nf6 c4 c5 d5 e6 Nc3 exd5 cxd5 d6 e4 g6 f4 Bg7 Bb5+
A68|Modern Benoni, Four Pawns Attack|モダン・ベノニ、フォー・ポーンズ・アタック|d4 Nf6 c4 c5 d5 e6 Nc3 exd5 cxd5 d6 e4 g6 f4
A80|Dutch Defence|ダッチ・ディフェンス|d4 f5
A80|Dutch Defence, Hopton Attack|ダッチ・ディフェンス、ホプトン・アタック|d4 f5 Bg5
A82|Dutch Defence, Staunton Gambit|ダッチ・ディフェンス、スタントン・ギャンビット|d4 f5 e4
A84|Dutch Defence with c4|ダッチ・ディフェンスc4|d4 f5 c4
A86|Dutch Defence, Fianchetto Attack|ダッチ・ディフェンス、フィアンケット・アタック|d4 f5 c4 Nf6 g3
A87|Dutch Defence, Leningrad Variation|ダッチ・ディフェンス、レニングラード・バリエーション|d4 f5 c4 Nf6 g3 g6 Bg2 Bg7 Nf3
A90|Dutch Defence, Classical Variation|ダッチ・ディフェンス、クラシカル・バリエーション|d4 f5 c4 Nf6 g3 e6 Bg2
A92|Dutch Defence, Stonewall Variation|ダッチ・ディフェンス、ストーンウォール・バリエーション|d4 f5 c4 Nf6 g3 e6 Bg2 Be7 Nf3 O-O O-O d5
B00|King's Pawn Game|キングズ・ポーン・ゲーム|e4
B00|Nimzowitsch Defence|ニムゾヴィッチ・ディフェンス|e4 Nc6
B00|Owen Defence|オーウェン・ディフェンス|e4 b6
B00|St. George Defence|セント・ジョージ・ディフェンス|e4 a6
B01|Scandinavian Defence|スカンジナビアン・ディフェンス|e4 d5
B01|Scandinavian Defence, Mieses Variation|スカンジナビアン・ディフェンス、ミーゼス・バリエーション|e4 d5 exd5 Qxd5
B01|Scandinavian Defence, Main Line|スカンジナビアン・ディフェンス本筋|e4 d5 exd5 Qxd5 Nc3 Qa5
B01|Scandinavian Defence, Pytel Variation|スカンジナビアン・ディフェンス、ピテル・バリエーション|e4 d5 exd5 Qxd5 Nc3 Qd6
B01|Scandinavian Defence, Modern Variation|スカンジナビアン・ディフェンス、モダン・バリエーション|e4 d5 exd5 Nf6
B01|Scandinavian Defence, Icelandic Gambit|スカンジナビアン・ディフェンス、アイスランド・ギャンビット|e4 d5 exd5 Nf6 c4 e6
B02|Alekhine Defence|アレヒン・ディフェンス|e4 Nf6
B03|Alekhine Defence, Main Line|アレヒン・ディフェンス本筋|e4 Nf6 e5 Nd5 d4 d6
B03|Alekhine Defence, Four Pawns Attack|アレヒン・ディフェンス、フォー・ポーンズ・アタック|e4 Nf6 e5 Nd5 d4 d6 c4 Nb6 f4
B03|Alekhine Defence, Exchange Variation|アレヒン・ディフェンス、エクスチェンジ・バリエーション|e4 Nf6 e5 Nd5 d4 d6 c4 Nb6 exd6
B04|Alekhine Defence, Modern Variation|アレヒン・ディフェンス、モダン・バリエーション|e4 Nf6 e5 Nd5 d4 d6 Nf3
B05|Alekhine Defence, Modern with Bg4|アレヒン・ディフェンス、モダンBg4|e4 Nf6 e5 Nd5 d4 d6 Nf3 Bg4
B06|Modern Defence|モダン・ディフェンス|e4 g6
B06|Modern Defence, Standard Line|モダン・ディフェンス標準形|e4 g6 d4 Bg7 Nc3
B07|Pirc Defence|ピルツ・ディフェンス|e4 d6 d4 Nf6
B07|Pirc Defence with Nc3|ピルツ・ディフェンスNc3|e4 d6 d4 Nf6 Nc3 g6
B08|Pirc Defence, Classical Variation|ピルツ・ディフェンス、クラシカル・バリエーション|e4 d6 d4 Nf6 Nc3 g6 Nf3
B09|Pirc Defence, Austrian Attack|ピルツ・ディフェンス、オーストリアン・アタック|e4 d6 d4 Nf6 Nc3 g6 f4
B10|Caro-Kann Defence|カロカン・ディフェンス|e4 c6
B10|Caro-Kann Defence, Accelerated Panov|カロカン・ディフェンス、アクセラレーテッド・パノフ|e4 c6 c4
B10|Caro-Kann Defence, Two Knights Attack|カロカン・ディフェンス、ツー・ナイツ・アタック|e4 c6 Nc3 d5 Nf3
B12|Caro-Kann Defence, Advance Variation|カロカン・ディフェンス、アドバンス・バリエーション|e4 c6 d4 d5 e5
B12|Caro-Kann Defence, Advance, Short Variation|カロカン・ディフェンス、アドバンス、ショート・バリエーション|e4 c6 d4 d5 e5 Bf5 Nf3
B12|Caro-Kann Defence, Botvinnik–Carls Defence|カロカン・ディフェンス、ボトヴィニク・カールス・ディフェンス|e4 c6 d4 d5 e5 c5
B12|Caro-Kann Defence, Fantasy Variation|カロカン・ディフェンス、ファンタジー・バリエーション|e4 c6 d4 d5 f3
B13|Caro-Kann Defence, Exchange Variation|カロカン・ディフェンス、エクスチェンジ・バリエーション|e4 c6 d4 d5 exd5 cxd5
B13|Caro-Kann Defence, Panov Attack|カロカン・ディフェンス、パノフ・アタック|e4 c6 d4 d5 exd5 cxd5 c4
B15|Caro-Kann Defence, Main Line|カロカン・ディフェンス本筋|e4 c6 d4 d5 Nc3 dxe4 Nxe4
B15|Caro-Kann Defence, Tartakower Variation|カロカン・ディフェンス、タルタコワ・バリエーション|e4 c6 d4 d5 Nc3 dxe4 Nxe4 Nf6 Nxf6+ exf6
B16|Caro-Kann Defence, Bronstein–Larsen Variation|カロカン・ディフェンス、ブロンシュテイン・ラルセン・バリエーション|e4 c6 d4 d5 Nc3 dxe4 Nxe4 Nf6 Nxf6+ gxf6
B17|Caro-Kann Defence, Karpov Variation|カロカン・ディフェンス、カルポフ・バリエーション|e4 c6 d4 d5 Nc3 dxe4 Nxe4 Nd7
B18|Caro-Kann Defence, Classical Variation|カロカン・ディフェンス、クラシカル・バリエーション|e4 c6 d4 d5 Nc3 dxe4 Nxe4 Bf5
B19|Caro-Kann Defence, Classical, Main Line|カロカン・ディフェンス、クラシカル本筋|e4 c6 d4 d5 Nc3 dxe4 Nxe4 Bf5 Ng3 Bg6 h4 h6 Nf3 Nd7
B20|Sicilian Defence|シシリアン・ディフェンス|e4 c5
B20|Sicilian Defence, Wing Gambit|シシリアン・ディフェンス、ウイング・ギャンビット|e4 c5 b4
B20|Sicilian Defence, Bowdler Attack|シシリアン・ディフェンス、バウドラー・アタック|e4 c5 Bc4
B21|Sicilian Defence, McDonnell Attack|シシリアン・ディフェンス、マクドネル・アタック|e4 c5 f4
B21|Sicilian Defence, Smith–Morra Gambit|シシリアン・ディフェンス、スミス・モラ・ギャンビット|e4 c5 d4 cxd4 c3
B22|Sicilian Defence, Alapin Variation|シシリアン・ディフェンス、アラピン・バリエーション|e4 c5 c3
B22|Sicilian Defence, Alapin with Nf6|シシリアン・ディフェンス、アラピンNf6|e4 c5 c3 Nf6
B22|Sicilian Defence, Alapin with d5|シシリアン・ディフェンス、アラピンd5|e4 c5 c3 d5
B23|Sicilian Defence, Closed Variation|シシリアン・ディフェンス、クローズド・バリエーション|e4 c5 Nc3
B23|Sicilian Defence, Grand Prix Attack|シシリアン・ディフェンス、グランプリ・アタック|e4 c5 Nc3 Nc6 f4
B24|Sicilian Defence, Closed, Fianchetto|シシリアン・ディフェンス、クローズド、フィアンケット|e4 c5 Nc3 Nc6 g3
B27|Sicilian Defence, Open Preparations|シシリアン・ディフェンスNf3|e4 c5 Nf3
B27|Sicilian Defence, Hyperaccelerated Dragon|シシリアン・ディフェンス、ハイパーアクセラレーテッド・ドラゴン|e4 c5 Nf3 g6
B28|Sicilian Defence, O'Kelly Variation|シシリアン・ディフェンス、オケリー・バリエーション|e4 c5 Nf3 a6
B29|Sicilian Defence, Nimzowitsch Variation|シシリアン・ディフェンス、ニムゾヴィッチ・バリエーション|e4 c5 Nf3 Nf6
B30|Sicilian Defence, Old Sicilian|シシリアン・ディフェンス、オールド・シシリアン|e4 c5 Nf3 Nc6
B30|Sicilian Defence, Rossolimo Variation|シシリアン・ディフェンス、ロッソリーモ・バリエーション|e4 c5 Nf3 Nc6 Bb5
B31|Sicilian Defence, Rossolimo, Fianchetto|シシリアン・ディフェンス、ロッソリーモ、フィアンケット|e4 c5 Nf3 Nc6 Bb5 g6
B32|Sicilian Defence, Open with Nc6|シシリアン・ディフェンス、オープンNc6|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4
B32|Sicilian Defence, Löwenthal Variation|シシリアン・ディフェンス、レーヴェンタール・バリエーション|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 e5
B32|Sicilian Defence, Kalashnikov Variation|シシリアン・ディフェンス、カラシニコフ・バリエーション|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 e5 Nb5 d6
B33|Sicilian Defence, Sveshnikov Variation|シシリアン・ディフェンス、スヴェシニコフ・バリエーション|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 Nf6 Nc3 e5
B33|Sicilian Defence, Sveshnikov, Chelyabinsk Variation|シシリアン・ディフェンス、チェリャビンスク・バリエーション|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 Nf6 Nc3 e5 Ndb5 d6 Bg5 a6 Na3 b5
B34|Sicilian Defence, Accelerated Dragon|シシリアン・ディフェンス、アクセラレーテッド・ドラゴン|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 g6
B36|Sicilian Defence, Accelerated Dragon, Maróczy Bind|シシリアン・ディフェンス、マロツィ・バインド|e4 c5 Nf3 Nc6 d4 cxd4 Nxd4 g6 c4
B40|Sicilian Defence, French Variation|シシリアン・ディフェンス、フレンチ・バリエーション|e4 c5 Nf3 e6
B41|Sicilian Defence, Kan Variation|シシリアン・ディフェンス、カン・バリエーション|e4 c5 Nf3 e6 d4 cxd4 Nxd4 a6
B42|Sicilian Defence, Kan with Bd3|シシリアン・ディフェンス、カンBd3|e4 c5 Nf3 e6 d4 cxd4 Nxd4 a6 Bd3
B44|Sicilian Defence, Taimanov Variation|シシリアン・ディフェンス、タイマノフ・バリエーション|e4 c5 Nf3 e6 d4 cxd4 Nxd4 Nc6
B45|Sicilian Defence, Four Knights Variation|シシリアン・ディフェンス、フォー・ナイツ・バリエーション|e4 c5 Nf3 e6 d4 cxd4 Nxd4 Nf6 Nc3 Nc6
B47|Sicilian Defence, Taimanov with Qc7|シシリアン・ディフェンス、タイマノフQc7|e4 c5 Nf3 e6 d4 cxd4 Nxd4 Nc6 Nc3 Qc7
B50|Sicilian Defence with d6|シシリアン・ディフェンスd6|e4 c5 Nf3 d6
B51|Sicilian Defence, Moscow Variation|シシリアン・ディフェンス、モスクワ・バリエーション|e4 c5 Nf3 d6 Bb5+
B53|Sicilian Defence, Chekhover Variation|シシリアン・ディフェンス、チェホーヴェル・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Qxd4
B54|Sicilian Defence, Open with d6|シシリアン・ディフェンス、オープンd6|e4 c5 Nf3 d6 d4 cxd4 Nxd4
B56|Sicilian Defence, Classical Variation|シシリアン・ディフェンス、クラシカル・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 Nc6
B57|Sicilian Defence, Classical, Sozin Attack|シシリアン・ディフェンス、クラシカル、ソージン・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 Nc6 Bc4
B60|Sicilian Defence, Richter–Rauzer Attack|シシリアン・ディフェンス、リヒター・ラウザー・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 Nc6 Bg5
B70|Sicilian Defence, Dragon Variation|シシリアン・ディフェンス、ドラゴン・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 g6
B72|Sicilian Defence, Dragon, Classical Attack|シシリアン・ディフェンス、ドラゴン、クラシカル・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 g6 Be3
B75|Sicilian Defence, Dragon, Yugoslav Attack|シシリアン・ディフェンス、ドラゴン、ユーゴスラブ・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 g6 Be3 Bg7 f3
B80|Sicilian Defence, Scheveningen Variation|シシリアン・ディフェンス、スヘフェニンゲン・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 e6
B81|Sicilian Defence, Keres Attack|シシリアン・ディフェンス、ケレス・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 e6 g4
B90|Sicilian Defence, Najdorf Variation|シシリアン・ディフェンス、ナイドルフ・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6
B90|Sicilian Defence, Najdorf, English Attack|シシリアン・ディフェンス、ナイドルフ、イングリッシュ・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 Be3
B90|Sicilian Defence, Najdorf, Adams Attack|シシリアン・ディフェンス、ナイドルフ、アダムズ・アタック|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 h3
B91|Sicilian Defence, Najdorf, Fianchetto|シシリアン・ディフェンス、ナイドルフ、フィアンケット|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 g3
B92|Sicilian Defence, Najdorf, Opočenský Variation|シシリアン・ディフェンス、ナイドルフ、オポチェンスキー・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 Be2
B93|Sicilian Defence, Najdorf, Amsterdam Variation|シシリアン・ディフェンス、ナイドルフ、アムステルダム・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 f4
B94|Sicilian Defence, Najdorf with Bg5|シシリアン・ディフェンス、ナイドルフBg5|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 Bg5
B97|Sicilian Defence, Najdorf, Poisoned Pawn Variation|シシリアン・ディフェンス、ナイドルフ、ポイズンド・ポーン・バリエーション|e4 c5 Nf3 d6 d4 cxd4 Nxd4 Nf6 Nc3 a6 Bg5 e6 f4 Qb6
C00|French Defence|フレンチ・ディフェンス|e4 e6
C00|French Defence, King's Indian Attack|フレンチ・ディフェンス、キングズ・インディアン・アタック|e4 e6 d3
C00|French Defence, Normal Variation|フレンチ・ディフェンス、ノーマル・バリエーション|e4 e6 d4 d5
C01|French Defence, Exchange Variation|フレンチ・ディフェンス、エクスチェンジ・バリエーション|e4 e6 d4 d5 exd5 exd5
C02|French Defence, Advance Variation|フレンチ・ディフェンス、アドバンス・バリエーション|e4 e6 d4 d5 e5
C02|French Defence, Advance, Main Line|フレンチ・ディフェンス、アドバンス本筋|e4 e6 d4 d5 e5 c5 c3 Nc6 Nf3
C03|French Defence, Tarrasch Variation|フレンチ・ディフェンス、タラッシュ・バリエーション|e4 e6 d4 d5 Nd2
C05|French Defence, Tarrasch, Closed|フレンチ・ディフェンス、タラッシュ、クローズド|e4 e6 d4 d5 Nd2 Nf6 e5 Nfd7
C07|French Defence, Tarrasch, Open|フレンチ・ディフェンス、タラッシュ、オープン|e4 e6 d4 d5 Nd2 c5
C10|French Defence, Paulsen Variation|フレンチ・ディフェンス、パウルセン・バリエーション|e4 e6 d4 d5 Nc3
C10|French Defence, Rubinstein Variation|フレンチ・ディフェンス、ルビンシュタイン・バリエーション|e4 e6 d4 d5 Nc3 dxe4 Nxe4
C11|French Defence, Classical Variation|フレンチ・ディフェンス、クラシカル・バリエーション|e4 e6 d4 d5 Nc3 Nf6
C11|French Defence, Steinitz Variation|フレンチ・ディフェンス、シュタイニッツ・バリエーション|e4 e6 d4 d5 Nc3 Nf6 e5
C11|French Defence, Burn Variation|フレンチ・ディフェンス、バーン・バリエーション|e4 e6 d4 d5 Nc3 Nf6 Bg5 dxe4
C12|French Defence, MacCutcheon Variation|フレンチ・ディフェンス、マカッチョン・バリエーション|e4 e6 d4 d5 Nc3 Nf6 Bg5 Bb4
C13|French Defence, Classical, Normal Line|フレンチ・ディフェンス、クラシカル通常形|e4 e6 d4 d5 Nc3 Nf6 Bg5 Be7
C15|French Defence, Winawer Variation|フレンチ・ディフェンス、ヴィナヴェル・バリエーション|e4 e6 d4 d5 Nc3 Bb4
C16|French Defence, Winawer, Advance|フレンチ・ディフェンス、ヴィナヴェル、アドバンス|e4 e6 d4 d5 Nc3 Bb4 e5
C18|French Defence, Winawer, Main Line|フレンチ・ディフェンス、ヴィナヴェル本筋|e4 e6 d4 d5 Nc3 Bb4 e5 c5 a3 Bxc3+ bxc3
C20|Open Game|オープン・ゲーム|e4 e5
C20|King's Pawn Opening, Wayward Queen Attack|オープン・ゲーム、早いクイーン|e4 e5 Qh5
C21|Center Game|センター・ゲーム|e4 e5 d4 exd4
C21|Danish Gambit|デンマーク・ギャンビット|e4 e5 d4 exd4 c3
C22|Center Game, Paulsen Attack|センター・ゲーム、パウルセン・アタック|e4 e5 d4 exd4 Qxd4 Nc6 Qe3
C23|Bishop's Opening|ビショップズ・オープニング|e4 e5 Bc4
C24|Bishop's Opening, Berlin Defence|ビショップズ・オープニング、ベルリン・ディフェンス|e4 e5 Bc4 Nf6
C25|Vienna Game|ウィーン・ゲーム|e4 e5 Nc3
C25|Vienna Game with Nc6|ウィーン・ゲームNc6|e4 e5 Nc3 Nc6
C26|Vienna Game, Falkbeer Variation|ウィーン・ゲーム、ファルクベア・バリエーション|e4 e5 Nc3 Nf6
C27|Vienna Game, Frankenstein–Dracula Variation|ウィーン・ゲーム、フランケンシュタイン・ドラキュラ・バリエーション|e4 e5 Nc3 Nf6 Bc4 Nxe4
C29|Vienna Gambit|ウィーン・ギャンビット|e4 e5 Nc3 Nf6 f4
C30|King's Gambit|キングズ・ギャンビット|e4 e5 f4
C30|King's Gambit Declined, Classical Variation|キングズ・ギャンビット・デクラインド、クラシカル・バリエーション|e4 e5 f4 Bc5
C31|King's Gambit, Falkbeer Countergambit|キングズ・ギャンビット、ファルクベア・カウンターギャンビット|e4 e5 f4 d5
C33|King's Gambit Accepted|キングズ・ギャンビット・アクセプテッド|e4 e5 f4 exf4
C33|King's Gambit Accepted, Bishop's Gambit|キングズ・ギャンビット・アクセプテッド、ビショップズ・ギャンビット|e4 e5 f4 exf4 Bc4
C34|King's Gambit Accepted, King's Knight Gambit|キングズ・ギャンビット・アクセプテッド、キングズ・ナイト・ギャンビット|e4 e5 f4 exf4 Nf3
C34|King's Gambit Accepted, Fischer Defence|キングズ・ギャンビット・アクセプテッド、フィッシャー・ディフェンス|e4 e5 f4 exf4 Nf3 d6
C36|King's Gambit Accepted, Modern Defence|キングズ・ギャンビット・アクセプテッド、モダン・ディフェンス|e4 e5 f4 exf4 Nf3 d5
C37|King's Gambit Accepted, Classical Defence|キングズ・ギャンビット・アクセプテッド、クラシカル・ディフェンス|e4 e5 f4 exf4 Nf3 g5
C39|King's Gambit Accepted, Kieseritzky Gambit|キングズ・ギャンビット・アクセプテッド、キーゼリツキー・ギャンビット|e4 e5 f4 exf4 Nf3 g5 h4 g4 Ne5
C40|King's Knight Opening|キングズ・ナイト・オープニング|e4 e5 Nf3
C40|Latvian Gambit|ラトビアン・ギャンビット|e4 e5 Nf3 f5
C40|Elephant Gambit|エレファント・ギャンビット|e4 e5 Nf3 d5
C40|Damiano Defence|ダミアーノ・ディフェンス|e4 e5 Nf3 f6
C41|Philidor Defence|フィリドール・ディフェンス|e4 e5 Nf3 d6
C41|Philidor Defence, Exchange Variation|フィリドール・ディフェンス、エクスチェンジ・バリエーション|e4 e5 Nf3 d6 d4 exd4
C41|Philidor Defence, Hanham Variation|フィリドール・ディフェンス、ハナム・バリエーション|e4 e5 Nf3 d6 d4 Nf6 Nc3 Nbd7
C42|Petrov Defence|ペトロフ・ディフェンス|e4 e5 Nf3 Nf6
C42|Petrov Defence, Classical Attack|ペトロフ・ディフェンス、クラシカル・アタック|e4 e5 Nf3 Nf6 Nxe5 d6 Nf3 Nxe4 d4
C42|Petrov Defence, Nimzowitsch Attack|ペトロフ・ディフェンス、ニムゾヴィッチ・アタック|e4 e5 Nf3 Nf6 Nxe5 d6 Nf3 Nxe4 Nc3
C42|Petrov Defence, Cochrane Gambit|ペトロフ・ディフェンス、コクラン・ギャンビット|e4 e5 Nf3 Nf6 Nxe5 d6 Nxf7
C42|Petrov Defence, Stafford Gambit|ペトロフ・ディフェンス、スタフォード・ギャンビット|e4 e5 Nf3 Nf6 Nxe5 Nc6
C43|Petrov Defence, Modern Attack|ペトロフ・ディフェンス、モダン・アタック|e4 e5 Nf3 Nf6 d4
C44|King's Knight Opening with Nc6|キングズ・ナイト・オープニングNc6|e4 e5 Nf3 Nc6
C44|Ponziani Opening|ポンツィアーニ・オープニング|e4 e5 Nf3 Nc6 c3
C44|Scotch Game|スコッチ・ゲーム|e4 e5 Nf3 Nc6 d4
C44|Scotch Gambit|スコッチ・ギャンビット|e4 e5 Nf3 Nc6 d4 exd4 Bc4
C44|Göring Gambit|ゲーリング・ギャンビット|e4 e5 Nf3 Nc6 d4 exd4 c3
C45|Scotch Game, Open|スコッチ・ゲーム、オープン|e4 e5 Nf3 Nc6 d4 exd4 Nxd4
C45|Scotch Game, Classical Variation|スコッチ・ゲーム、クラシカル・バリエーション|e4 e5 Nf3 Nc6 d4 exd4 Nxd4 Bc5
C45|Scotch Game, Schmidt Variation|スコッチ・ゲーム、シュミット・バリエーション|e4 e5 Nf3 Nc6 d4 exd4 Nxd4 Nf6
C45|Scotch Game, Mieses Variation|スコッチ・ゲーム、ミーゼス・バリエーション|e4 e5 Nf3 Nc6 d4 exd4 Nxd4 Nf6 Nxc6 bxc6 e5
C46|Three Knights Opening|スリー・ナイツ・オープニング|e4 e5 Nf3 Nc6 Nc3
C47|Four Knights Game|フォー・ナイツ・ゲーム|e4 e5 Nf3 Nc6 Nc3 Nf6
C47|Four Knights Game, Scotch Variation|フォー・ナイツ・ゲーム、スコッチ・バリエーション|e4 e5 Nf3 Nc6 Nc3 Nf6 d4
C47|Four Knights Game, Halloween Gambit|フォー・ナイツ・ゲーム、ハロウィーン・ギャンビット|e4 e5 Nf3 Nc6 Nc3 Nf6 Nxe5
C48|Four Knights Game, Spanish Variation|フォー・ナイツ・ゲーム、スパニッシュ・バリエーション|e4 e5 Nf3 Nc6 Nc3 Nf6 Bb5
C50|Italian Game|イタリアン・ゲーム|e4 e5 Nf3 Nc6 Bc4
C50|Italian Game, Giuoco Piano|イタリアン・ゲーム、ジュオコ・ピアノ|e4 e5 Nf3 Nc6 Bc4 Bc5
C50|Italian Game, Giuoco Pianissimo|イタリアン・ゲーム、ジュオコ・ピアニッシモ|e4 e5 Nf3 Nc6 Bc4 Bc5 d3
C50|Italian Game, Hungarian Defence|イタリアン・ゲーム、ハンガリアン・ディフェンス|e4 e5 Nf3 Nc6 Bc4 Be7
C51|Evans Gambit|エヴァンス・ギャンビット|e4 e5 Nf3 Nc6 Bc4 Bc5 b4
C51|Evans Gambit Accepted|エヴァンス・ギャンビット・アクセプテッド|e4 e5 Nf3 Nc6 Bc4 Bc5 b4 Bxb4
C53|Italian Game, Classical Variation|イタリアン・ゲーム、クラシカル・バリエーション|e4 e5 Nf3 Nc6 Bc4 Bc5 c3
C54|Italian Game, Greco Attack|イタリアン・ゲーム、グレコ・アタック|e4 e5 Nf3 Nc6 Bc4 Bc5 c3 Nf6 d4 exd4 cxd4
C54|Italian Game, Slow Classical|イタリアン・ゲーム、スロー・クラシカル|e4 e5 Nf3 Nc6 Bc4 Bc5 c3 Nf6 d3
C55|Italian Game, Two Knights Defence|イタリアン・ゲーム、ツー・ナイツ・ディフェンス|e4 e5 Nf3 Nc6 Bc4 Nf6
C55|Two Knights Defence, Modern Bishop's Opening|ツー・ナイツ・ディフェンスd3|e4 e5 Nf3 Nc6 Bc4 Nf6 d3
C56|Two Knights Defence, Open Variation|ツー・ナイツ・ディフェンス、オープン・バリエーション|e4 e5 Nf3 Nc6 Bc4 Nf6 d4 exd4
C57|Two Knights Defence, Knight Attack|ツー・ナイツ・ディフェンス、ナイト・アタック|e4 e5 Nf3 Nc6 Bc4 Nf6 Ng5
C57|Two Knights Defence, Traxler Counterattack|ツー・ナイツ・ディフェンス、トラクスラー・カウンターアタック|e4 e5 Nf3 Nc6 Bc4 Nf6 Ng5 Bc5
C57|Two Knights Defence, Fried Liver Attack|ツー・ナイツ・ディフェンス、フライド・リバー・アタック|e4 e5 Nf3 Nc6 Bc4 Nf6 Ng5 d5 exd5 Nxd5 Nxf7
C58|Two Knights Defence, Polerio Defence|ツー・ナイツ・ディフェンス、ポレリオ・ディフェンス|e4 e5 Nf3 Nc6 Bc4 Nf6 Ng5 d5 exd5 Na5
C60|Ruy Lopez|ルイ・ロペス|e4 e5 Nf3 Nc6 Bb5
C60|Ruy Lopez, Fianchetto Defence|ルイ・ロペス、フィアンケット・ディフェンス|e4 e5 Nf3 Nc6 Bb5 g6
C60|Ruy Lopez, Cozio Defence|ルイ・ロペス、コツィオ・ディフェンス|e4 e5 Nf3 Nc6 Bb5 Nge7
C61|Ruy Lopez, Bird Defence|ルイ・ロペス、バード・ディフェンス|e4 e5 Nf3 Nc6 Bb5 Nd4
C62|Ruy Lopez, Steinitz Defence|ルイ・ロペス、シュタイニッツ・ディフェンス|e4 e5 Nf3 Nc6 Bb5 d6
C63|Ruy Lopez, Schliemann Defence|ルイ・ロペス、シュリーマン・ディフェンス|e4 e5 Nf3 Nc6 Bb5 f5
C64|Ruy Lopez, Classical Defence|ルイ・ロペス、クラシカル・ディフェンス|e4 e5 Nf3 Nc6 Bb5 Bc5
C65|Ruy Lopez, Berlin Defence|ルイ・ロペス、ベルリン・ディフェンス|e4 e5 Nf3 Nc6 Bb5 Nf6
C65|Ruy Lopez, Berlin Defence, Anti-Berlin|ルイ・ロペス、アンチ・ベルリン|e4 e5 Nf3 Nc6 Bb5 Nf6 d3
C67|Ruy Lopez, Berlin Defence, Open Variation|ルイ・ロペス、ベルリン、オープン・バリエーション|e4 e5 Nf3 Nc6 Bb5 Nf6 O-O Nxe4
C67|Ruy Lopez, Berlin Wall|ルイ・ロペス、ベルリンの壁|e4 e5 Nf3 Nc6 Bb5 Nf6 O-O Nxe4 d4 Nd6 Bxc6 dxc6 dxe5 Nf5 Qxd8+ Kxd8
C68|Ruy Lopez, Exchange Variation|ルイ・ロペス、エクスチェンジ・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Bxc6
C70|Ruy Lopez, Morphy Defence|ルイ・ロペス、モーフィー・ディフェンス|e4 e5 Nf3 Nc6 Bb5 a6
C70|Ruy Lopez, Morphy Defence with Ba4|ルイ・ロペス、モーフィー・ディフェンスBa4|e4 e5 Nf3 Nc6 Bb5 a6 Ba4
C72|Ruy Lopez, Modern Steinitz Defence|ルイ・ロペス、モダン・シュタイニッツ・ディフェンス|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 d6
C77|Ruy Lopez, Morphy Defence with Nf6|ルイ・ロペス、モーフィー・ディフェンスNf6|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6
C78|Ruy Lopez, Morphy Defence, Castled|ルイ・ロペス、モーフィー・ディフェンスO-O|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O
C78|Ruy Lopez, Archangel Variation|ルイ・ロペス、アルハンゲリスク・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O b5 Bb3 Bb7
C78|Ruy Lopez, Møller Defence|ルイ・ロペス、メラー・ディフェンス|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Bc5
C80|Ruy Lopez, Open Variation|ルイ・ロペス、オープン・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Nxe4
C84|Ruy Lopez, Closed Variation|ルイ・ロペス、クローズド・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7
C88|Ruy Lopez, Closed with Bb3|ルイ・ロペス、クローズドBb3|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3
C89|Ruy Lopez, Marshall Attack|ルイ・ロペス、マーシャル・アタック|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3 O-O c3 d5
C92|Ruy Lopez, Closed, Main Line|ルイ・ロペス、クローズド本筋|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3 d6 c3 O-O h3
C92|Ruy Lopez, Zaitsev Variation|ルイ・ロペス、ザイツェフ・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3 d6 c3 O-O h3 Bb7
C95|Ruy Lopez, Breyer Variation|ルイ・ロペス、ブレイヤー・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3 d6 c3 O-O h3 Nb8
C97|Ruy Lopez, Chigorin Variation|ルイ・ロペス、チゴリン・バリエーション|e4 e5 Nf3 Nc6 Bb5 a6 Ba4 Nf6 O-O Be7 Re1 b5 Bb3 d6 c3 O-O h3 Na5 Bc2 c5 d4 Qc7
D00|Queen's Pawn Game with d5|クイーンズ・ポーン・ゲームd5|d4 d5
D00|London System, Accelerated|アクセラレーテッド・ロンドン・システム|d4 d5 Bf4
D00|Blackmar–Diemer Gambit|ブラックマー・ディーマー・ギャンビット|d4 d5 e4
D00|Levitsky Attack|レヴィツキー・アタック|d4 d5 Bg5
D00|Stonewall Attack|ストーンウォール・アタック|d4 d5 e3 Nf6 Bd3 e6 f4
D01|Rapport–Jobava System|ラポルト・ジョバヴァ・システム|d4 d5 Nc3 Nf6 Bf4
D01|Richter–Veresov Attack|リヒター・ヴェレソフ・アタック|d4 d5 Nc3 Nf6 Bg5
D02|Queen's Pawn Game, Zukertort Variation|クイーンズ・ポーン・ゲーム、ツケルトート・バリエーション|d4 d5 Nf3
D02|London System|ロンドン・システム|d4 d5 Nf3 Nf6 Bf4
D03|Torre Attack with d5|トーレ・アタックd5|d4 d5 Nf3 Nf6 Bg5
D04|Colle System|コーレ・システム|d4 d5 Nf3 Nf6 e3
D05|Colle System, Main Line|コーレ・システム本筋|d4 d5 Nf3 Nf6 e3 e6 Bd3
D06|Queen's Gambit|クイーンズ・ギャンビット|d4 d5 c4
D06|Queen's Gambit, Marshall Defence|クイーンズ・ギャンビット、マーシャル・ディフェンス|d4 d5 c4 Nf6
D07|Queen's Gambit, Chigorin Defence|クイーンズ・ギャンビット、チゴリン・ディフェンス|d4 d5 c4 Nc6
D08|Albin Countergambit|アルビン・カウンターギャンビット|d4 d5 c4 e5
D10|Slav Defence|スラブ・ディフェンス|d4 d5 c4 c6
D10|Slav Defence, Exchange Variation|スラブ・ディフェンス、エクスチェンジ・バリエーション|d4 d5 c4 c6 cxd5 cxd5
D11|Slav Defence, Modern Line|スラブ・ディフェンス、モダン|d4 d5 c4 c6 Nf3
D15|Slav Defence, Three Knights Variation|スラブ・ディフェンス、スリー・ナイツ・バリエーション|d4 d5 c4 c6 Nf3 Nf6 Nc3
D15|Slav Defence, Chebanenko Variation|スラブ・ディフェンス、チェバネンコ・バリエーション|d4 d5 c4 c6 Nf3 Nf6 Nc3 a6
D16|Slav Defence, Alapin Variation|スラブ・ディフェンス、アラピン・バリエーション|d4 d5 c4 c6 Nf3 Nf6 Nc3 dxc4 a4
D17|Slav Defence, Czech Variation|スラブ・ディフェンス、チェコ・バリエーション|d4 d5 c4 c6 Nf3 Nf6 Nc3 dxc4 a4 Bf5
D20|Queen's Gambit Accepted|クイーンズ・ギャンビット・アクセプテッド|d4 d5 c4 dxc4
D20|Queen's Gambit Accepted, Central Variation|クイーンズ・ギャンビット・アクセプテッド、セントラル・バリエーション|d4 d5 c4 dxc4 e4
D21|Queen's Gambit Accepted with Nf3|クイーンズ・ギャンビット・アクセプテッドNf3|d4 d5 c4 dxc4 Nf3
D26|Queen's Gambit Accepted, Classical|クイーンズ・ギャンビット・アクセプテッド、クラシカル|d4 d5 c4 dxc4 Nf3 Nf6 e3 e6
D30|Queen's Gambit Declined|クイーンズ・ギャンビット・デクラインド|d4 d5 c4 e6
D30|Queen's Gambit Declined with Nf3|クイーンズ・ギャンビット・デクラインドNf3|d4 d5 c4 e6 Nf3
D31|Queen's Gambit Declined, Queen's Knight Variation|クイーンズ・ギャンビット・デクラインド、クイーンズ・ナイト・バリエーション|d4 d5 c4 e6 Nc3
D31|Semi-Slav, Noteboom Variation|セミスラブ、ノートボーム・バリエーション|d4 d5 c4 e6 Nc3 c6 Nf3 dxc4
D31|Semi-Slav, Marshall Gambit|セミスラブ、マーシャル・ギャンビット|d4 d5 c4 e6 Nc3 c6 e4
D32|Tarrasch Defence|タラッシュ・ディフェンス|d4 d5 c4 e6 Nc3 c5
D34|Tarrasch Defence, Main Line|タラッシュ・ディフェンス本筋|d4 d5 c4 e6 Nc3 c5 cxd5 exd5 Nf3 Nc6 g3 Nf6 Bg2 Be7
D35|Queen's Gambit Declined, Exchange Variation|クイーンズ・ギャンビット・デクラインド、エクスチェンジ・バリエーション|d4 d5 c4 e6 Nc3 Nf6 cxd5 exd5
D37|Queen's Gambit Declined, Three Knights|クイーンズ・ギャンビット・デクラインド、スリー・ナイツ|d4 d5 c4 e6 Nc3 Nf6 Nf3
D37|Queen's Gambit Declined, Harrwitz Attack|クイーンズ・ギャンビット・デクラインド、ハルヴィッツ・アタック|d4 d5 c4 e6 Nc3 Nf6 Nf3 Be7 Bf4
D38|Ragozin Defence|ラゴージン・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Nf3 Bb4
D39|Ragozin Defence, Vienna Variation|ラゴージン・ディフェンス、ウィーン・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Nf3 Bb4 Bg5 dxc4
D40|Semi-Tarrasch Defence|セミタラッシュ・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Nf3 c5
D43|Semi-Slav Defence|セミスラブ・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6
D43|Semi-Slav, Moscow Variation|セミスラブ、モスクワ・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6 Bg5 h6
D44|Semi-Slav, Botvinnik Variation|セミスラブ、ボトヴィニク・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6 Bg5 dxc4
D45|Semi-Slav, Normal Variation|セミスラブ、ノーマル・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6 e3
D46|Semi-Slav, Main Line|セミスラブ本筋|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6 e3 Nbd7 Bd3
D47|Semi-Slav, Meran Variation|セミスラブ、メラン・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Nf3 c6 e3 Nbd7 Bd3 dxc4 Bxc4 b5
D50|Queen's Gambit Declined with Bg5|クイーンズ・ギャンビット・デクラインドBg5|d4 d5 c4 e6 Nc3 Nf6 Bg5
D52|Queen's Gambit Declined, Cambridge Springs Variation|クイーンズ・ギャンビット・デクラインド、ケンブリッジ・スプリングス・バリエーション|d4 d5 c4 e6 Nc3 Nf6 Bg5 Nbd7 e3 c6 Nf3 Qa5
D53|Queen's Gambit Declined, Orthodox Setup|クイーンズ・ギャンビット・デクラインド、オーソドックス型|d4 d5 c4 e6 Nc3 Nf6 Bg5 Be7
D56|Queen's Gambit Declined, Lasker Defence|クイーンズ・ギャンビット・デクラインド、ラスカー・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Bg5 Be7 e3 O-O Nf3 h6 Bh4 Ne4
D58|Queen's Gambit Declined, Tartakower Defence|クイーンズ・ギャンビット・デクラインド、タルタコワ・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Bg5 Be7 e3 O-O Nf3 h6 Bh4 b6
D60|Queen's Gambit Declined, Orthodox Defence|クイーンズ・ギャンビット・デクラインド、オーソドックス・ディフェンス|d4 d5 c4 e6 Nc3 Nf6 Bg5 Be7 e3 O-O Nf3 Nbd7
D70|Neo-Grünfeld Defence|ネオ・グリュンフェルト・ディフェンス|d4 Nf6 c4 g6 g3 d5
D80|Grünfeld Defence|グリュンフェルト・ディフェンス|d4 Nf6 c4 g6 Nc3 d5
D82|Grünfeld Defence, Brinckmann Attack|グリュンフェルト・ディフェンス、ブリンクマン・アタック|d4 Nf6 c4 g6 Nc3 d5 Bf4
D85|Grünfeld Defence, Exchange Variation|グリュンフェルト・ディフェンス、エクスチェンジ・バリエーション|d4 Nf6 c4 g6 Nc3 d5 cxd5 Nxd5
D86|Grünfeld Defence, Exchange, Classical|グリュンフェルト・ディフェンス、エクスチェンジ、クラシカル|d4 Nf6 c4 g6 Nc3 d5 cxd5 Nxd5 e4 Nxc3 bxc3 Bg7 Bc4
D90|Grünfeld Defence, Three Knights Variation|グリュンフェルト・ディフェンス、スリー・ナイツ・バリエーション|d4 Nf6 c4 g6 Nc3 d5 Nf3
D97|Grünfeld Defence, Russian Variation|グリュンフェルト・ディフェンス、ロシアン・バリエーション|d4 Nf6 c4 g6 Nc3 d5 Nf3 Bg7 Qb3
E00|Indian Defence with e6|インディアン・ディフェンスe6|d4 Nf6 c4 e6
E00|Catalan Opening|カタラン・オープニング|d4 Nf6 c4 e6 g3
E01|Catalan Opening, Closed|カタラン・オープニング、クローズド|d4 Nf6 c4 e6 g3 d5 Bg2
E04|Catalan Opening, Open Defence|カタラン・オープニング、オープン・ディフェンス|d4 Nf6 c4 e6 g3 d5 Bg2 dxc4 Nf3
E06|Catalan Opening, Closed, Main Line|カタラン・オープニング、クローズド本筋|d4 Nf6 c4 e6 g3 d5 Bg2 Be7 Nf3
E10|Indian Defence, Anti-Nimzo-Indian|アンチ・ニムゾ・インディアン|d4 Nf6 c4 e6 Nf3
E10|Blumenfeld Countergambit|ブルーメンフェルト・カウンターギャンビット|d4 Nf6 c4 e6 Nf3 c5 d5 b5
E11|Bogo-Indian Defence|ボゴ・インディアン・ディフェンス|d4 Nf6 c4 e6 Nf3 Bb4+
E12|Queen's Indian Defence|クイーンズ・インディアン・ディフェンス|d4 Nf6 c4 e6 Nf3 b6
E12|Queen's Indian Defence, Petrosian Variation|クイーンズ・インディアン・ディフェンス、ペトロシアン・バリエーション|d4 Nf6 c4 e6 Nf3 b6 a3
E15|Queen's Indian Defence, Fianchetto Variation|クイーンズ・インディアン・ディフェンス、フィアンケット・バリエーション|d4 Nf6 c4 e6 Nf3 b6 g3
E17|Queen's Indian Defence, Classical Variation|クイーンズ・インディアン・ディフェンス、クラシカル・バリエーション|d4 Nf6 c4 e6 Nf3 b6 g3 Bb7 Bg2 Be7
E20|Nimzo-Indian Defence|ニムゾ・インディアン・ディフェンス|d4 Nf6 c4 e6 Nc3 Bb4
E20|Nimzo-Indian Defence, Kmoch Variation|ニムゾ・インディアン・ディフェンス、クモッホ・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 f3
E21|Nimzo-Indian Defence, Three Knights Variation|ニムゾ・インディアン・ディフェンス、スリー・ナイツ・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 Nf3
E22|Nimzo-Indian Defence, Spielmann Variation|ニムゾ・インディアン・ディフェンス、シュピールマン・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 Qb3
E24|Nimzo-Indian Defence, Sämisch Variation|ニムゾ・インディアン・ディフェンス、ゼーミッシュ・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 a3 Bxc3+ bxc3
E30|Nimzo-Indian Defence, Leningrad Variation|ニムゾ・インディアン・ディフェンス、レニングラード・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 Bg5
E32|Nimzo-Indian Defence, Classical Variation|ニムゾ・インディアン・ディフェンス、クラシカル・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 Qc2
E40|Nimzo-Indian Defence, Rubinstein System|ニムゾ・インディアン・ディフェンス、ルビンシュタイン・システム|d4 Nf6 c4 e6 Nc3 Bb4 e3
E41|Nimzo-Indian Defence, Hübner Variation|ニムゾ・インディアン・ディフェンス、ヒュブナー・バリエーション|d4 Nf6 c4 e6 Nc3 Bb4 e3 c5 Bd3 Nc6 Nf3 Bxc3+ bxc3 d6
E60|King's Indian Defence Setup|キングズ・インディアン型|d4 Nf6 c4 g6
E61|King's Indian Defence with Nc3|キングズ・インディアン・ディフェンスNc3|d4 Nf6 c4 g6 Nc3 Bg7
E62|King's Indian Defence, Fianchetto Variation|キングズ・インディアン・ディフェンス、フィアンケット・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 Nf3 d6 g3
E70|King's Indian Defence|キングズ・インディアン・ディフェンス|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6
E73|King's Indian Defence, Averbakh Variation|キングズ・インディアン・ディフェンス、アヴェルバフ・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Be2 O-O Bg5
E76|King's Indian Defence, Four Pawns Attack|キングズ・インディアン・ディフェンス、フォー・ポーンズ・アタック|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 f4
E80|King's Indian Defence, Sämisch Variation|キングズ・インディアン・ディフェンス、ゼーミッシュ・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 f3
E90|King's Indian Defence, Normal Variation|キングズ・インディアン・ディフェンス、ノーマル・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Nf3
E92|King's Indian Defence, Classical Variation|キングズ・インディアン・ディフェンス、クラシカル・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Nf3 O-O Be2 e5
E94|King's Indian Defence, Orthodox Variation|キングズ・インディアン・ディフェンス、オーソドックス・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Nf3 O-O Be2 e5 O-O
E97|King's Indian Defence, Mar del Plata Variation|キングズ・インディアン・ディフェンス、マル・デル・プラタ・バリエーション|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Nf3 O-O Be2 e5 O-O Nc6 d5 Ne7
E97|King's Indian Defence, Bayonet Attack|キングズ・インディアン・ディフェンス、バヨネット・アタック|d4 Nf6 c4 g6 Nc3 Bg7 e4 d6 Nf3 O-O Be2 e5 O-O Nc6 d5 Ne7 b4
`;
