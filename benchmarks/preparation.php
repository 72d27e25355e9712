<?php

// php benchmarks/preparation.php: how long a preview of each kind of step takes on the demo's 6,000 rows, and on 131,072, the most that are counted exactly.

declare(strict_types=1);

use App\Demo\Blemishes;
use App\Demo\GenerateCommand;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Prepare\Advice;
use Dokimos\Core\Prepare\Learning;
use Dokimos\Core\Prepare\Look;
use Dokimos\Core\Prepare\Steps;

$root = dirname(__DIR__);
require $root.'/vendor/autoload.php';
ini_set('memory_limit', '3G');

$cases = [
    'fill, median' => ['step' => 'fill_missing', 'columns' => ['boiler_age']],
    'fill, by group' => ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median by group', 'group' => 'boiler_make'],
    'fill, by model' => ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'by model'],
    'drop rows' => ['step' => 'drop_rows', 'columns' => ['boiler_age']],
    'keep rows' => ['step' => 'keep_rows', 'where' => [['days_ahead', 'is over', '2']]],
    'duplicates' => ['step' => 'duplicates', 'choose' => ['kinds' => [], 'missing' => false]],
    'recode' => ['step' => 'recode', 'column' => 'travel_km', 'pairs' => [['-1', '']]],
    'outliers' => ['step' => 'outliers', 'columns' => ['quoted_cost', 'travel_km']],
    'bins by the target' => ['step' => 'bins', 'columns' => ['quoted_cost'], 'method' => 'by the target'],
    'rank' => ['step' => 'scale', 'columns' => ['quoted_cost'], 'method' => 'rank'],
    'share of the event' => ['step' => 'encode', 'columns' => ['district', 'depot'], 'method' => 'share of the event'],
    'date parts' => ['step' => 'date_parts', 'column' => 'visit_date', 'parts' => ['month', 'weekday']],
    'words' => ['step' => 'text_terms', 'column' => 'booking_note'],
    'formula' => ['step' => 'formula', 'name' => 'x', 'formula' => 'travel_km > 20 and days_ahead > 9 ? round(quoted_cost / 10) : 0'],
    'components' => ['step' => 'components', 'columns' => ['travel_km', 'quoted_cost', 'days_ahead']],
    'groups' => ['step' => 'clusters', 'columns' => ['travel_km', 'quoted_cost']],
    'telling columns' => ['step' => 'keep_strong'],
];
foreach ([6000, 131072] as $rows) {
    $file = (string) tempnam(sys_get_temp_dir(), 'visits');
    file_put_contents($file, implode('', iterator_to_array(GenerateCommand::tables(1, $rows, new Blemishes())['visits'], false)));
    [$table] = (new CsvFile($file))->read();
    unlink($file);
    $target = $table->column('return_visit');
    $event = $training = [];
    for ($row = 0; $row < $table->rows; ++$row) {
        $event[] = 'yes' === $target->text($row) ? 1.0 : 0.0;
        if (0 !== $row % 5) {
            $training[] = $row;
        }
    }
    $start = new Learning($table->without(['return_visit', 'outcome']), $training, $event);
    printf("%s rows x %d\n", number_format($table->rows), count($table->names()) - 2);
    foreach ($cases as $name => $step) {
        $times = [];
        for ($i = 0; $i < (6000 === $rows ? 5 : 1); ++$i) {
            $begun = microtime(true);
            Look::between($start->learned, $start->after(Steps::fromSettings($step))->learned);
            $times[] = microtime(true) - $begun;
        }
        sort($times);
        printf("  %-20s %7.0f ms\n", $name, 1000 * $times[intdiv(count($times), 2)]);
    }
    if (6000 === $rows) {
        $begun = microtime(true);
        Advice::of([$cases['drop rows'], $cases['fill, median'], $cases['recode']], $start->learned->table, $training, $event);
        printf("  %-20s %7.0f ms\n", 'advice on three steps', 1000 * (microtime(true) - $begun));
    }
}
