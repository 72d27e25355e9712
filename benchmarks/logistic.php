<?php

// Fits a logistic regression on column-major doubles, three times, and prints CPU seconds and a coefficient: logistic.php DIR NAME

declare(strict_types=1);

require dirname(__DIR__).'/vendor/autoload.php';

use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

[, $dir, $name] = $argv;
$y = array_map(floatval(...), array_values(unpack('C*', (string) file_get_contents("$dir/$name.y.u8"))));
$rows = count($y);
$handle = fopen("$dir/$name.X.f64", 'r');
$columns = [];
for ($j = 0; $j < 30; ++$j) {
    $columns['x'.$j] = new NumberColumn(array_values(unpack('e*', (string) fread($handle, 8 * $rows))));
}
$task = new Task(Table::of($columns), array_keys($columns), $y, range(0, $rows - 1));
for ($run = 0; $run < 3; ++$run) {
    $before = getrusage();
    $model = (new LogisticRegression())->fit($task);
    $after = getrusage();
    $cpu = $after['ru_utime.tv_sec'] - $before['ru_utime.tv_sec'] + ($after['ru_utime.tv_usec'] - $before['ru_utime.tv_usec']) / 1e6;
    printf("cpu %.3f steps %d b1 %.9g peak %d MB\n", $cpu, $model->figures->steps, $model->coefficients[1]->estimate, memory_get_peak_usage(true) >> 20);
}
