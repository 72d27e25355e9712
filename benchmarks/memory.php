<?php

declare(strict_types=1);

/**
 * memory.php LEARNER [two classes|number|several classes] [rows] [settings as JSON]: what a fit takes of memory and time beside its table, on
 * made visits; what a learner's card says is this, rounded up. One fit a process, so that the peak is its own.
 */
require __DIR__.'/../vendor/autoload.php';

use App\Demo\VisitGenerator;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

[, $learner, $task, $rows, $settings] = $argv + [1 => 'logistic', 2 => Task::TWO, 3 => '100000', 4 => '{}'];
$rows = (int) $rows;
$file = sys_get_temp_dir()."/dokimos-visits-$rows.csv";
if (!is_file($file)) {
    file_put_contents($file, iterator_to_array(VisitGenerator::forPart(5, 'visits')->visits($rows), false));
}
[$read] = (new CsvFile($file))->read();
// What is known only afterwards, says who it is, or is text is no input.
$aside = ['visit_id', 'household_id', 'booking_note', 'access_code', 'currency', 'parts_ordered_after', 'minutes_on_site', 'outcome', 'return_visit', 'depot'];
$classes = null;
if (Task::NUMBER === $task) {
    $target = array_map(static fn (float $v): float => is_nan($v) ? 50.0 : $v, $read->number('minutes_on_site')->values);
} elseif (Task::MORE === $task) {
    $kinds = $read->column('job_type');
    assert($kinds instanceof CodedColumn);
    [$target, $classes, $aside] = [array_map(static fn (int $code): float => (float) max(0, $code), $kinds->codes), $kinds->levels, [...$aside, 'job_type']];
} else {
    $answers = $read->column('return_visit');
    [$target, $classes] = [[], ['no', 'yes']];
    for ($i = 0; $i < $rows; ++$i) {
        $target[] = 'yes' === $answers->text($i) ? 1.0 : 0.0;
    }
}
$inputs = array_values(array_diff($read->names(), $aside));
$table = Table::of(array_combine($inputs, array_map($read->column(...), $inputs)), $rows);
unset($read);
$given = new Task($table, $inputs, $target, range(0, $rows - 1), null, $classes);
$terms = count($given->coding(range(0, $rows - 1), new Reading(true))->terms);
gc_collect_cycles();
memory_reset_peak_usage();
[$before, $start] = [memory_get_usage(), microtime(true)];
Learners::make($learner, (array) json_decode($settings, true, 8, \JSON_THROW_ON_ERROR))->fit($given);
$took = memory_get_peak_usage() - $before;
printf("%s, %s, %d rows, %d columns, %d terms: %.1f MB, %.1f bytes a row, %.1f s\n", $learner, $task, $rows, count($inputs), $terms, $took / 1048576, $took / $rows, microtime(true) - $start);
