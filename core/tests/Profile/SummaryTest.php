<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Profile;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Profile\NumberSummary;
use Dokimos\Core\Profile\Shape;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SummaryTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function columns(): iterable
    {
        /** @var array<string, mixed> $columns */
        $columns = Files::expected('summary')['columns'];
        foreach (array_keys($columns) as $name) {
            yield $name => [$name];
        }
    }

    #[DataProvider('columns')]
    public function testAnImportGivesTheReferenceFigures(string $name): void
    {
        /** @var array<string, array<string, mixed>> $columns */
        $columns = Files::expected('summary')['columns'];
        [$table, $imported] = (new CsvFile(Files::folder('summary').'/data.csv'))->read();
        $place = (int) array_search($name, $imported->names, true);
        /** @var array<string, mixed> $summary */
        $summary = $imported->columns[$place]->profile['summary'];
        if (isset($columns[$name]['robust_z_first_10_rows'])) {
            $values = $table->number($name)->values;
            $summary['robust_z_first_10_rows'] = array_map(NumberSummary::of($values)->robustZ(...), \array_slice($values, 0, 10));
        }
        $this->compare($columns[$name], $summary, $name);
    }

    private function compare(mixed $expected, mixed $got, string $path): void
    {
        if (\is_array($expected)) {
            foreach ($expected as $key => $value) {
                $this->compare($value, \is_array($got) ? $got[$key] ?? null : null, $path.'/'.$key);
            }
        } elseif (\is_float($expected) || \is_int($expected)) {
            self::assertIsNumeric($got, $path);
            // The mean of "big" is rounded to a double before the powers are taken: the case says so.
            $tolerance = str_starts_with($path, 'big/') && 1 === preg_match('/skew|kurt|robust/', $path) ? 2e-6 : 1e-10 * abs($expected) + (1 === preg_match('/skew|kurt/', $path) ? 1e-9 * abs($expected) : 0) + 1e-12;
            self::assertLessThanOrEqual($tolerance, abs($got - $expected), $path);
        } else {
            self::assertSame($expected, $got, $path);
        }
    }

    public function testShapesCountEveryCellOnce(): void
    {
        mt_srand(5);
        foreach ([10, 300, 5000] as $n) {
            $values = [];
            for ($i = 0; $i < $n; ++$i) {
                $values[] = round(exp(mt_rand(0, 600) / 100), 2);
            }
            $counts = array_count_values(array_map(strval(...), $values));
            ksort($counts, \SORT_NUMERIC);
            $bins = Shape::ofNumbers(array_map(floatval(...), array_keys($counts)), array_values($counts));
            self::assertSame($n, array_sum(array_column($bins, 'count')));
            self::assertLessThanOrEqual(26, \count($bins));
        }
    }
}
