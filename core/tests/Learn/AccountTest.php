<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Account;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Why one record got its chance. */
final class AccountTest extends TestCase
{
    /** @return array{Table, LogisticModel} 400 records of which the event follows from km and color */
    private static function fitted(): array
    {
        mt_srand(9);
        $km = $colors = $days = $event = [];
        for ($i = 0; $i < 400; ++$i) {
            $km[] = mt_rand(0, 400) / 10;
            $colors[] = ['red', 'green', 'blue'][mt_rand(0, 2)];
            $days[] = mt_rand(0, 300) * DateColumn::DAY;
            $event[] = (float) (mt_rand() / mt_getrandmax() < 1 / (1 + exp(2 - $km[$i] / 10 - ('red' === $colors[$i] ? 1.5 : 0))));
        }
        $table = Table::of(['km' => new NumberColumn($km), 'color' => CodedColumn::fromCells($colors), 'day' => new DateColumn($days)]);

        return [$table, (new LogisticRegression())->fit(new Task($table, ['km', 'color', 'day'], $event, range(0, 399)))];
    }

    public function testTheyAddUpToTheChanceAndStandInOrderOfTheirWeight(): void
    {
        [$table, $model] = self::fitted();
        $chances = $model->predict($table);
        for ($row = 0; $row < 400; $row += 17) {
            $out = $model->account($table, $row);
            self::assertNotNull($out);
            self::assertEqualsWithDelta((float) $out->logOdds, $out->base + array_sum(array_column($out->columns, 'effect')), 1e-10);
            self::assertEqualsWithDelta($chances[$row], LogisticModel::chance((float) $out->logOdds), 1e-12);
            self::assertTrue($out->low < $chances[$row] && $chances[$row] < $out->high);
            $sizes = array_map(abs(...), array_column($out->columns, 'effect'));
            $ordered = $sizes;
            rsort($ordered);
            self::assertSame($ordered, $sizes);
            self::assertEqualsCanonicalizing(['km', 'color', 'day'], array_column($out->columns, 'column'));
        }
    }

    public function testOverAllTrainingRowsAColumnsContributionsAddUpToNothing(): void
    {
        [$table, $model] = self::fitted();
        $sums = [];
        for ($row = 0; $row < 400; ++$row) {
            foreach ($model->account($table, $row)->columns ?? [] as $c) {
                $sums[$c['column']] = ($sums[$c['column']] ?? 0.0) + $c['effect'];
            }
        }
        foreach ($sums as $column => $sum) {
            self::assertEqualsWithDelta(0.0, $sum, 1e-7, $column);
        }
    }

    public function testARecordWithAMissingValueHasNone(): void
    {
        [$table, $model] = self::fitted();
        $km = array_values(array_replace($table->number('km')->values, [5 => \NAN]));
        self::assertNull($model->account($table->with('km', new NumberColumn($km)), 5));
        self::assertNotNull($model->account($table->with('km', new NumberColumn($km)), 6));
    }

    public function testDatesAreReadAsDates(): void
    {
        [$table, $model] = self::fitted();
        $values = array_column($model->account($table, 0)->columns ?? [], 'value', 'column');
        self::assertMatchesRegularExpression('/^\d{1,2} [A-Z][a-z]{2} 1970$/', (string) $values['day']);
        self::assertSame($table->column('color')->text(0), $values['color']);
    }

    /** @return iterable<string, array{list<array{column: string, value: ?string, effect: float}>, int, string}> */
    public static function sentences(): iterable
    {
        $columns = [
            ['column' => 'days_ahead', 'value' => '12', 'effect' => 0.314],
            ['column' => 'tenure', 'value' => 'owner', 'effect' => -0.2],
            ['column' => 'km', 'value' => null, 'effect' => 0.01],
            ['column' => 'x', 'value' => '1', 'effect' => 0.001],
        ];
        yield 'three' => [$columns, 3, "days ahead 12 (+0.31); tenure owner (\u{2212}0.20); km missing (+0.01)"];
        yield 'one' => [$columns, 1, 'days ahead 12 (+0.31)'];
        yield 'what is too small to read is left out' => [
            $columns,
            9,
            "days ahead 12 (+0.31); tenure owner (\u{2212}0.20); km missing (+0.01)",
        ];
        yield 'none' => [[], 3, ''];
    }

    /** @param list<array{column: string, value: ?string, effect: float}> $columns */
    #[DataProvider('sentences')]
    public function testTheSentence(array $columns, int $most, string $sentence): void
    {
        self::assertSame($sentence, (new Account(0.0, $columns, 0.005))->sentence($most));
    }
}
