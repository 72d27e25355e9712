<?php

declare(strict_types=1);

/**
 * make inside [ROWS=N] [TREES=N]: how many records a minute a boosted model scores inside PostgreSQL, in one session, by a statement of its
 * own: 100 and
 * 600 trees on made visits, in a private cluster that is gone afterwards. Prints what was measured.
 */
require __DIR__.'/../vendor/autoload.php';

use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\InDatabase;
use Dokimos\Core\Tests\PostgresCluster;
use Dokimos\Core\Validate\Trying;

ini_set('memory_limit', '4G');
$rows = max(1000, (int) ($argv[1] ?? 1_000_000));
$pdo = new PDO('pgsql:host=127.0.0.1;dbname=lists;port='.PostgresCluster::port(), PostgresCluster::WRITER, PostgresCluster::PASSWORD);
$pdo->setAttribute(PDO::ATTR_ERRMODE, PDO::ERRMODE_EXCEPTION);
$slots = ['08-10', '10-13', '13-16', '16-19'];
$columns = ['days_ahead', 'boiler_age', 'past_returns', 'engineer_years', 'travel_km', 'quoted_cost', 'a', 'b'];
$begun = hrtime(true);
$pdo->exec('CREATE UNLOGGED TABLE made_visits AS SELECT i AS visit_id, '
    ."(ARRAY['08-10', '10-13', '13-16', '16-19'])[1 + i % 4] AS slot, (ARRAY['app', 'web', 'phone', 'post'])[1 + (i / 7) % 4] AS channel, "
    .implode(
        ', ',
        array_map(
            static fn (string $c, int $k): string => '(hashint4((i * '.(17 + 2 * $k).")::int) & 65535) / 655.36::float8 AS $c",
            $columns,
            array_keys($columns),
        ),
    )
    ." FROM generate_series(1, $rows) i");
$pdo->exec('ANALYZE made_visits');
printf("%s made records of 11 columns in %.0f s\n", number_format($rows), (hrtime(true) - $begun) / 1e9);
mt_srand(4);
$made = $y = [];
for ($i = 0; $i < 20000; ++$i) {
    foreach ($columns as $c) {
        $made[$c][] = mt_rand(0, 10000) / 100;
    }
    $made['slot'][] = mt_rand(0, 3);
    $made['channel'][] = mt_rand(0, 3);
    $z = -2 + 0.03 * $made['days_ahead'][$i] + (
        ($made['slot'][$i] > 1) === ($made['channel'][$i] < 2) ? 1 : -1
    ) + 0.02 * $made['boiler_age'][$i] - sin($made['a'][$i] / 9);
    $y[] = mt_rand(0, 9999) / 10000 < 1 / (1 + exp(-$z)) ? 1.0 : 0.0;
}
$table = Table::of([
    'slot' => new CodedColumn($made['slot'], $slots, Kind::Category),
    'channel' => new CodedColumn($made['channel'], ['app', 'web', 'phone', 'post'], Kind::Category),
] + array_map(static fn (string $c): NumberColumn => new NumberColumn($made[$c]), array_combine($columns, $columns)), 20000);
foreach (isset($argv[2]) ? [(int) $argv[2]] : [100, 600] as $trees) {
    $learner = Learners::make('boosting', ['trees' => $trees, 'patience' => 0]);
    $model = (new Trying($table, $table->names(), $y, Preparation::fromArray([]), $learner))->whole('y', 'yes');
    $done = (new InDatabase($pdo, Dialect::PostgreSql))->score($model, 'made_visits', ['visit_id'], "scored_by_$trees");
    printf(
        "%d trees: %s records in %.1f s, %s a minute in one session; %s\n",
        $trees,
        number_format($done['rows']),
        $done['seconds'],
        number_format(60 * $done['rows'] / $done['seconds']),
        $done['proof']->sentence(),
    );
}
