<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Findings;

use Dokimos\Core\Findings\Finder;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\Outcome\EventOutcome;
use Dokimos\Core\Findings\Severity;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetStrength;
use Dokimos\Core\Findings\Thresholds;
use Dokimos\Core\Math\Holm;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Every sort of finding: where it must be made, and where it must not. */
final class FinderTest extends TestCase
{
    private const ROWS = 600;

    /**
     * @param \Closure(int, float): (float|string|null) $cell row and a random share
     *
     * @return list<float>
     */
    private static function numbers(\Closure $cell, int $seed = 1): array
    {
        mt_srand($seed);
        $out = [];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $v = $cell($i, mt_rand() / mt_getrandmax());
            $out[] = null === $v ? \NAN : (float) $v;
        }

        return $out;
    }

    /**
     * @param \Closure(int, float): ?string $cell
     *
     * @return list<?string>
     */
    private static function texts(\Closure $cell, int $seed = 2): array
    {
        mt_srand($seed);
        $out = [];
        for ($i = 0; $i < self::ROWS; ++$i) {
            $out[] = $cell($i, mt_rand() / mt_getrandmax());
        }

        return $out;
    }

    /** @return list<string> "severity sort" of what is found about the column x alone */
    private static function about(Column $column): array
    {
        // A second column keeps rows apart.
        $table = Table::of(['x' => $column, 'other' => new NumberColumn(self::numbers(static fn (int $i, float $u) => $i + $u, 77))]);
        $found = array_filter(
            (new Finder(Thresholds::standard()))->of(new Subject($table, today: 1800000000)),
            static fn (Finding $f) => ['x'] === $f->columns,
        );

        return array_values(array_map(static fn (Finding $f) => $f->severity->value.' '.$f->sort, $found));
    }

    /** @return iterable<string, array{Column, list<string>}> */
    public static function columns(): iterable
    {
        $number = static fn (\Closure $cell): NumberColumn => new NumberColumn(self::numbers($cell));
        $level = static fn (\Closure $cell): CodedColumn => CodedColumn::fromCells(self::texts($cell));
        $text = static fn (\Closure $cell): TextColumn => new TextColumn(self::texts($cell));

        yield 'an honest number' => [$number(static fn (int $i, float $u) => round(100 * $u, 1)), []];
        yield 'a bell' => [$number(static fn (int $i, float $u) => sqrt(-2 * log($u + 1e-9)) * cos($i)), []];
        yield 'whole counts from 0' => [$number(static fn (int $i, float $u) => (int) (6 * $u)), []];
        yield 'an honest category' => [$level(static fn (int $i, float $u) => 'level '.(int) (5 * $u)), []];
        yield 'yes and no' => [
            CodedColumn::fromCells(self::texts(static fn (int $i, float $u) => $u < 0.3 ? 'yes' : 'no'), Kind::YesNo),
            [],
        ];
        yield 'free text' => [$text(static fn (int $i, float $u) => 'a note '.(int) (400 * $u).' about this'), []];

        yield 'nothing at all' => [$number(static fn () => null), ['medium empty']];
        yield 'one value' => [$level(static fn () => 'EUR'), ['medium constant']];
        yield 'one number' => [$number(static fn () => 3), ['medium constant']];
        yield 'one value where it is filled' => [
            $level(static fn (int $i, float $u) => $u < 0.5 ? 'x' : null),
            ['medium missing', 'medium constant'],
        ];
        yield 'nearly one value' => [$level(static fn (int $i) => 0 === $i % 150 ? 'rare' : 'usual'), ['low near constant']];
        yield 'a few missing' => [$number(static fn (int $i, float $u) => 3 === $i ? null : $u), ['low missing']];
        yield 'many missing' => [$number(static fn (int $i, float $u) => $u < 0.2 ? null : $u), ['medium missing']];
        yield 'mostly missing' => [$number(static fn (int $i, float $u) => $u < 0.8 ? null : $u), ['medium mostly missing']];
        yield 'a running number' => [$number(static fn (int $i) => $i + 1000), ['low all distinct']];
        yield 'a key' => [new TextColumn(self::texts(static fn (int $i) => 'V'.$i), Kind::Identifier), ['low all distinct']];
        yield 'measurements that all differ' => [$number(static fn (int $i, float $u) => $u + $i / 1e6), []];

        yield 'minus one among distances' => [$number(static fn (int $i, float $u) => $u < 0.02 ? -1 : 3 + 40 * $u), ['high missing code']];
        yield '999 among ages' => [$number(static fn (int $i, float $u) => $u < 0.02 ? 999 : 18 + (int) (60 * $u)), ['high missing code']];
        yield 'minus one among numbers on both sides' => [$number(static fn (int $i, float $u) => (int) (20 * $u) - 10), []];
        yield '99 at the end of a range' => [$number(static fn (int $i, float $u) => (int) (100 * $u)), []];
        yield 'a single minus one' => [$number(static fn (int $i, float $u) => 7 === $i ? -1 : 3 + 40 * $u), []];
        yield 'a word for missing' => [
            $level(static fn (int $i, float $u) => $u < 0.1 ? 'unknown' : 'level '.(int) (4 * $u)),
            ['medium missing code'],
        ];
        yield 'a word for missing between two' => [
            $level(static fn (int $i, float $u) => $u < 0.1 ? '?' : ($u < 0.5 ? 'yes' : 'no')),
            ['medium missing code'],
        ];

        yield 'codes' => [
            $number(static fn (int $i, float $u) => [11, 12, 14, 21, 22, 31, 40][(int) (7 * $u)]),
            ['medium numbers like codes'],
        ];
        yield 'tens are rounding' => [$number(static fn (int $i, float $u) => 10 * (1 + (int) (8 * $u))), []];
        yield 'years in a row' => [$number(static fn (int $i, float $u) => 2015 + (int) (10 * $u)), []];

        yield 'far values' => [$number(static fn (int $i, float $u) => 0 === $i % 200 ? 900 + $i : 20 + 10 * $u), ['medium outliers']];
        yield 'a far value below' => [$number(static fn (int $i, float $u) => 5 === $i ? -400 : 20 + 10 * $u), ['medium outliers']];
        yield 'a long tail is no outlier' => [
            $number(static fn (int $i, float $u) => exp(1.2 * sqrt(-2 * log($u + 1e-9)) * cos($i))),
            ['low skew'],
        ];

        yield 'numbers with a few words' => [
            $text(static fn (int $i, float $u) => 0 === $i % 100 ? 'n/k' : (string) (int) (5000 * $u)),
            ['medium numbers stored as text'],
        ];
        yield 'numbers and words' => [
            $text(static fn (int $i, float $u) => $u < 0.4 ? 'word '.($i % 90) : (string) ($i % 200)),
            ['medium mixed kinds'],
        ];
        yield 'codes with leading zeros are words' => [$text(static fn (int $i, float $u) => \sprintf('%05d', (int) (90 * $u))), []];
        yield 'codes of four digits are words, leading zero or not' => [
            $text(static fn (int $i, float $u) => \sprintf('%04d', 137 * (int) (70 * $u))),
            [],
        ];
        yield 'many categories' => [$level(static fn (int $i, float $u) => 'place '.(int) (90 * $u)), ['medium many categories']];
        yield 'rare categories' => [
            $level(static fn (int $i, float $u) => $i < 2 ? 'seldom' : 'level '.(int) (4 * $u)),
            ['low rare categories'],
        ];

        $day = static fn (float $d): int => 1700000000 + (int) ($d * 86400);
        mt_srand(3);
        $past = array_map(static fn () => $day(mt_rand(0, 300)), range(1, self::ROWS));
        yield 'dates of the past' => [new DateColumn($past), []];
        yield 'dates in the future' => [new DateColumn([$day(9000), ...\array_slice($past, 1)]), ['medium dates in the future']];
    }

    /** @param list<string> $expected */
    #[DataProvider('columns')]
    public function testOneColumn(Column $column, array $expected): void
    {
        $found = self::about($column);
        sort($found);
        sort($expected);
        self::assertSame($expected, $found);
    }

    public function testCopiesNearCopiesAndRelationsAreFoundOnce(): void
    {
        $a = self::texts(static fn (int $i, float $u) => 'a'.(int) (8 * $u));
        $near = $a;
        foreach ([3, 99, 300] as $row) {
            $near[$row] = 'a0' === $near[$row] ? 'a1' : 'a0';
        }
        $x = self::numbers(static fn (int $i, float $u) => round(1000 * $u));
        $table = Table::of([
            'a' => CodedColumn::fromCells($a), 'renamed' => CodedColumn::fromCells(array_map(static fn (?string $v) => 'is '.$v, $a)), 'near' => CodedColumn::fromCells($near),
            'x' => new NumberColumn($x), 'inches' => new NumberColumn(array_map(static fn (float $v) => $v / 2.54, $x)), 'loose' => new NumberColumn(array_map(
                static fn (float $v) => $v + 500 * sin($v * 7),
                $x,
            )),
            'apart' => new NumberColumn(self::numbers(static fn (int $i, float $u) => $u, 9)),
        ]);
        $found = array_map(static fn (Finding $f) => $f->key(), (new Finder(Thresholds::standard()))->of(new Subject($table)));
        foreach (['copy: a, renamed', 'near copy: a, near', 'near copy: renamed, near', 'copy: x, inches'] as $key) {
            self::assertContains($key, $found);
        }
        self::assertSame([], array_filter($found, static fn (string $k) => str_contains($k, 'apart')));
        self::assertSame(array_unique($found), $found);
    }

    public function testRowsAndKeysThatRepeat(): void
    {
        $ids = self::texts(static fn (int $i, float $u) => 'H'.(1000 + (int) (350 * $u)));
        $values = self::numbers(static fn (int $i, float $u) => $u + $i);
        $table = Table::of(['household' => new TextColumn($ids), 'value' => new NumberColumn($values)]);
        $found = array_column(
            array_map(static fn (Finding $f) => [$f->key(), $f], (new Finder(Thresholds::standard()))->of(new Subject($table))),
            1,
            0,
        );
        self::assertArrayHasKey('repeated keys: household', $found);
        self::assertArrayNotHasKey('duplicate rows: ', $found);
        $shown = array_map(static fn (int $row) => $ids[$row], $found['repeated keys: household']->rows);
        self::assertCount(1, array_unique($shown), 'the evidence is one household with all its records');
        self::assertGreaterThan(1, \count($shown));

        $twice = $table->take([...range(0, self::ROWS - 1), 5, 6, 7, 8, 9, 10, 11]);
        $rows = array_values(array_filter(
            (new Finder(Thresholds::standard()))->of(new Subject($twice)),
            static fn (Finding $f) => 'duplicate rows' === $f->sort,
        ))[0];
        self::assertSame([Severity::High, 7, range(600, 606)], [$rows->severity, $rows->figures['records'], $rows->rows]);
    }

    /** @return array{Table, list<float>} two honest columns, one written down after the outcome, and one that says nothing */
    private static function withLeak(): array
    {
        $x = self::numbers(static fn (int $i, float $u) => 10 * $u, 5);
        mt_srand(6);
        $event = array_map(static fn (float $v) => (float) (mt_rand() / mt_getrandmax() < $v / 14), $x);
        $after = array_map(static fn (float $e) => mt_rand(0, 99) < 4 ? null : ($e > 0.5 ? 'returned' : 'finished'), $event);

        return [Table::of([
            'target' => CodedColumn::fromCells(array_map(static fn (float $e) => $e > 0.5 ? 'yes' : 'no', $event), Kind::YesNo),
            'x' => new NumberColumn($x), 'noise' => new NumberColumn(self::numbers(static fn (int $i, float $u) => $u, 18)), 'outcome' => CodedColumn::fromCells($after),
        ]), $event];
    }

    /** @return list<string> */
    private static function leaks(Subject $subject): array
    {
        return array_values(array_map(
            static fn (Finding $f) => $f->columns[0],
            array_filter((new Finder(Thresholds::standard()))->of($subject), static fn (Finding $f) => 'leak suspicion' === $f->sort),
        ));
    }

    public function testAColumnThatKnowsTooMuchIsSuspectedUntilItIsSettled(): void
    {
        [$table, $event] = self::withLeak();
        $uses = ['target' => ColumnUse::Target];
        self::assertSame(['outcome'], self::leaks(new Subject($table, $uses, [], 'target', 'yes', $event)));
        self::assertSame([], self::leaks(new Subject($table, $uses, ['outcome'], 'target', 'yes', $event)), 'it is known to be late');
        self::assertSame(
            [],
            self::leaks(new Subject($table, $uses + ['outcome' => ColumnUse::Aside], [], 'target', 'yes', $event)),
            'it is not used',
        );
        self::assertSame([], self::leaks(new Subject($table->without(['outcome']), $uses, [], 'target', 'yes', $event)));
        self::assertSame([], self::leaks(new Subject($table, $uses)), 'without a target there is nothing to leak');
    }

    public function testTheSealedRowsOutcomesAreNotLookedAt(): void
    {
        [$table, $event] = self::withLeak();
        $sealed = $other = [];
        foreach ($event as $row => $e) {
            $sealed[] = 0 === $row % 5 ? \NAN : $e;
            $other[] = 0 === $row % 5 ? \NAN : $e;
        }
        // What the sealed outcomes are makes no difference anywhere.
        $find = static fn (array $events): array => array_map(
            static fn (Finding $f) => [$f->sentence, $f->figures],
            (new Finder(Thresholds::standard()))->of(new Subject(
                $table->without(['target']),
                [],
                [],
                'target',
                'yes',
                array_values($events),
            )),
        );
        self::assertEquals($find($sealed), $find($other));
        $strength = TargetStrength::of($table->column('x'), new EventOutcome($sealed));
        self::assertSame(480, $strength?->rows);
    }

    public function testImbalanceIsToldWithWhatDoingNothingReaches(): void
    {
        [$table] = self::withLeak();
        $event = array_map(static fn (int $i) => (float) (0 === $i % 20), range(0, self::ROWS - 1));
        $findings = array_filter(
            (new Finder(Thresholds::standard()))->of(new Subject($table, [], [], 'target', 'yes', $event)),
            static fn (Finding $f) => 'imbalance' === $f->sort,
        );
        self::assertStringContainsString(
            '"yes" in 5% of the records: always answering the other way would be right in 95%',
            array_values($findings)[0]->sentence,
        );
    }

    public function testTheMostHarmfulComesFirst(): void
    {
        [$table, $event] = self::withLeak();
        $weights = array_map(
            static fn (Finding $f) => ['high' => 0, 'medium' => 1, 'low' => 2][$f->severity->value],
            (new Finder(Thresholds::standard()))->of(new Subject($table, [], [], 'target', 'yes', $event)),
        );
        $sorted = $weights;
        sort($sorted);
        self::assertSame($sorted, $weights);
    }

    public function testThresholdsCanBeChangedAndOnlyThose(): void
    {
        $column = new NumberColumn(self::numbers(static fn (int $i, float $u) => $u < 0.1 ? null : $u));
        $severity = static fn (array $changed): string => (new Finder(Thresholds::standard($changed)))->of(new Subject(Table::of([
            'x' => $column,
            'y' => new NumberColumn(self::numbers(static fn (int $i, float $u) => $u, 4)),
        ])))[0]->severity->value;
        self::assertSame(['medium', 'low'], [$severity([]), $severity(['missing_share' => 0.3])]);
        foreach ([['luck' => 1], ['missing_share' => -1], ['missing_share' => \NAN]] as $bad) {
            try {
                Thresholds::standard($bad);
                self::fail('It was taken.');
            } catch (\InvalidArgumentException $e) {
                self::assertStringContainsString((string) array_key_first($bad), $e->getMessage());
            }
        }
    }

    public function testStrengthIsOnOneScaleForAllKinds(): void
    {
        [$table, $event] = self::withLeak();
        $x = TargetStrength::of($table->column('x'), new EventOutcome($event));
        $noise = TargetStrength::of($table->column('noise'), new EventOutcome($event));
        $outcome = TargetStrength::of($table->column('outcome'), new EventOutcome($event));
        self::assertNotNull($x);
        self::assertNotNull($noise);
        self::assertNotNull($outcome);
        self::assertTrue(
            $noise->alone < 0.6 && $x->alone > 0.65 && $x->alone < 0.9 && $outcome->alone > 0.95,
            "$noise->alone, $x->alone, $outcome->alone",
        );
        self::assertTrue($noise->p > 0.05 && $x->p < 1e-4, "$noise->p, $x->p");
        self::assertTrue($x->low < $x->alone && $x->alone < $x->high);
        $turned = TargetStrength::of(
            new NumberColumn(array_map(static fn (float $v) => -$v, $table->number('x')->values)),
            new EventOutcome($event),
        );
        self::assertEqualsWithDelta($x->alone, $turned?->alone, 0.02, 'direction does not matter');
        self::assertNull(TargetStrength::of(new TextColumn(array_fill(0, self::ROWS, 'a')), new EventOutcome($event)));
        self::assertNull(TargetStrength::of($table->column('x'), new EventOutcome(array_fill(0, self::ROWS, 1.0))), 'nothing to rank');
    }

    public function testNoiseIsHardlyEverCalledARelation(): void
    {
        $false = 0;
        for ($seed = 1; $seed <= 60; ++$seed) {
            $noise = new NumberColumn(self::numbers(static fn (int $i, float $u) => $u, 100 + $seed));
            mt_srand(900 + $seed);
            $event = array_map(static fn () => (float) (mt_rand(0, 3) > 2), range(1, self::ROWS));
            $false += (TargetStrength::of($noise, new EventOutcome($event))->p ?? 1.0) < 0.05 ? 1 : 0;
        }
        // Sixty tries at 5 %: more than eight happen once in a hundred.
        self::assertLessThanOrEqual(8, $false);
    }

    public function testAdjustedPValuesNeverFallBelowPlainOnesAndKeepTheirOrder(): void
    {
        self::assertEqualsWithDelta(['b' => 0.04, 'a' => 0.03, 'c' => 0.9], Holm::adjusted(['b' => 0.02, 'a' => 0.01, 'c' => 0.9]), 1e-12);
        self::assertSame(['x' => 1.0, 'y' => 1.0], Holm::adjusted(['x' => 0.7, 'y' => 0.8]));
        self::assertSame([], Holm::adjusted([]));
    }
}
