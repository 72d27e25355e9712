<?php

// How long the map of what goes together takes: 200 columns of mixed kinds, 100,000 records. php benchmarks/pictures.php [columns] [records]

declare(strict_types=1);

require dirname(__DIR__).'/vendor/autoload.php';

use Dokimos\Core\Picture\Together;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

ini_set('memory_limit', '2G');
[$columns, $records] = [(int) ($argv[1] ?? 200), (int) ($argv[2] ?? 100000)];
$random = new Randomizer(new Xoshiro256StarStar(11));
$made = [];
for ($c = 0; $c < $columns; ++$c) {
    $cells = [];
    for ($i = 0; $i < $records; ++$i) {
        $cells[] = 0 === $c % 3 ? $random->getInt(0, 11) : (0 === ($i + $c) % 50 ? \NAN : $random->getInt(0, 1 << 20) / 7);
    }
    $made["c$c"] = 0 === $c % 3 ? new CodedColumn(array_map(intval(...), $cells), array_map(static fn (int $l) => "level $l", range(0, 11))) : new NumberColumn(array_map(floatval(...), $cells));
}
$start = hrtime(true);
$map = Together::of(Table::of($made));
printf("%d columns, %s records: %d pairs on %s records in %.1f s, %d MB\n", $columns, number_format($records), count($map->pairs), number_format($map->records), (hrtime(true) - $start) / 1e9, memory_get_peak_usage(true) >> 20);
