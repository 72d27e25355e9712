<?php

// make findings: recall and false alarms of the findings on generated tables that nobody tuned them on.

declare(strict_types=1);

use App\Demo\Blemishes;
use App\Demo\VisitGenerator;
use Dokimos\Core\Findings\Finder;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\Severity;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\Thresholds;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;

require dirname(__DIR__).'/vendor/autoload.php';

// What each blemish must bring up, as "sort: column".
const PLANTED = [
    'missing-age' => ['missing: boiler_age'],
    'missing-code' => ['mostly missing: access_code'],
    'missing-channel' => ['missing: contact_channel'],
    'near-copy' => ['near copy: district, depot'],
    'constant' => ['constant: currency'],
    'skew' => ['skew: quoted_cost'],
    'outliers' => ['outliers: travel_km'],
    'minus-one' => ['missing code: travel_km'],
    'code' => ['numbers like codes: boiler_class'],
    'afterwards' => ['leak suspicion: parts_ordered_after'],
    'repeats' => ['repeated keys: household_id'],
];
// True whatever is planted: the outcome follows from the target.
const ALWAYS = ['leak suspicion: outcome'];

$seeds = (int) ($argv[1] ?? 20);
$sizes = array_map(intval(...), explode(',', $argv[2] ?? '500,6000,60000'));
$show = in_array('--show', $argv, true);
$file = tempnam(sys_get_temp_dir(), 'dokimos-findings');

/** @return array{list<string>, list<string>, float} keys found, keys of high severity, seconds */
function found(int $seed, int $rows, array $off, string $file): array
{
    file_put_contents($file, implode('', iterator_to_array((new VisitGenerator($seed, new Blemishes($off)))->visits($rows), false)));
    [$table] = (new CsvFile($file))->read();
    $target = $table->column('return_visit');
    assert($target instanceof CodedColumn);
    $yes = array_search('yes', $target->levels, true);
    $event = array_map(static fn (int $c) => $c === $yes ? 1.0 : 0.0, $target->codes);
    $uses = ['return_visit' => ColumnUse::Target];
    foreach ($table->columns() as $name => $column) {
        $uses[$name] ??= Kind::Identifier === $column->kind() ? ColumnUse::Key : ColumnUse::Input;
    }
    $start = hrtime(true);
    $findings = (new Finder(Thresholds::standard()))->of(new Subject($table, $uses, [], 'return_visit', 'yes', $event, 1800000000));

    return [
        array_map(static fn (Finding $f) => $f->key(), $findings),
        array_values(array_map(static fn (Finding $f) => $f->key(), array_filter($findings, static fn (Finding $f) => Severity::High === $f->severity))),
        (hrtime(true) - $start) / 1e9,
    ];
}

printf("%-18s %s\n", 'found of planted', implode('   ', array_map(static fn (int $n) => str_pad(number_format($n), 12), $sizes)));
$hits = $falseHigh = $clean = $times = [];
foreach ($sizes as $rows) {
    for ($s = 0; $s < $seeds; ++$s) {
        [$keys, $high, $seconds] = found(9000 + $s, $rows, [], $file);
        $times[$rows][] = $seconds;
        foreach (PLANTED as $blemish => $wanted) {
            $hits[$blemish][$rows] = ($hits[$blemish][$rows] ?? 0) + ([] === array_diff($wanted, $keys) ? 1 : 0);
        }
        $right = array_merge(ALWAYS, ...array_values(PLANTED));
        foreach (array_diff($high, $right) as $key) {
            $falseHigh[$rows][] = $key;
        }
        [$keys, $high] = found(9000 + $s, $rows, Blemishes::ALL, $file);
        foreach (array_merge(array_diff($high, ALWAYS), array_intersect($keys, array_merge(...array_values(PLANTED)))) as $key) {
            $clean[$rows][] = $key;
        }
    }
}
foreach (array_keys(PLANTED) as $blemish) {
    printf("%-18s %s\n", $blemish, implode('   ', array_map(static fn (int $n) => str_pad($hits[$blemish][$n].' of '.$seeds, 12), $sizes)));
}
foreach ($sizes as $rows) {
    printf("%s rows: %.2f s in the middle; false at high severity: %s; in clean tables: %s\n", number_format($rows), $times[$rows][intdiv(count($times[$rows]), 2)], [] === ($falseHigh[$rows] ?? []) ? 'none' : json_encode(array_count_values($falseHigh[$rows])), [] === ($clean[$rows] ?? []) ? 'none' : json_encode(array_count_values($clean[$rows])));
}
unlink($file);
