<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Picture;

use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\NoncentralChiSquare;
use Dokimos\Core\Picture\Lopsided;
use Dokimos\Core\Picture\MissingPattern;
use Dokimos\Core\Picture\Repeats;
use Dokimos\Core\Picture\StandsApart;
use Dokimos\Core\Picture\Strength;
use Dokimos\Core\Picture\Together;
use Dokimos\Core\Picture\TwoColumns;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

final class PicturesTest extends TestCase
{
    private static function uniform(Randomizer $random): float
    {
        return $random->getInt(0, (1 << 53) - 1) / (1 << 53);
    }

    /** @return iterable<array{float, float, float}> df, noncentrality, x */
    public static function noncentral(): iterable
    {
        foreach ([1.0, 4.0, 30.0] as $df) {
            foreach ([0.5, 5.0, 60.0, 400.0] as $lambda) {
                foreach ([-1.9, -0.5, 0.5, 1.9] as $z) {
                    $x = $df + $lambda + $z * sqrt(2 * ($df + 2 * $lambda));
                    if ($x > 0) {
                        yield [$df, $lambda, $x];
                    }
                }
            }
        }
    }

    #[DataProvider('noncentral')]
    public function testTheApproximationIsNearThePoissonSum(float $df, float $lambda, float $x): void
    {
        $exact = 0.0;
        $weight = exp(-$lambda / 2);
        for ($j = 0; $j < 700; ++$j) {
            $exact += $weight * (new ChiSquare($df + 2 * $j))->cdf($x);
            $weight *= $lambda / 2 / ($j + 1);
        }
        self::assertEqualsWithDelta($exact, (new NoncentralChiSquare($df, $lambda))->cdf($x), $lambda >= 5.0 ? 0.003 : 0.02);
    }

    public function testNoncentralityTurnsTheProbabilityRound(): void
    {
        foreach ([0.025, 0.5, 0.975] as $p) {
            $lambda = NoncentralChiSquare::noncentralityFor(80.0, 6.0, $p);
            self::assertEqualsWithDelta($p, (new NoncentralChiSquare(6.0, $lambda))->cdf(80.0), 1e-6);
        }
        self::assertSame(0.0, NoncentralChiSquare::noncentralityFor(5.0, 6.0, 0.975));
    }

    /** Intervals of each measure hold the truth of a large sample in about 95 of 100 small ones. */
    public function testIntervalsCoverWhatALargeSampleShows(): void
    {
        $draw = static function (int $n, int $seed): Table {
            $random = new Randomizer(new Xoshiro256StarStar($seed));
            $x = $y = $a = $b = [];
            for ($i = 0; $i < $n; ++$i) {
                $u = self::uniform($random) + self::uniform($random) + self::uniform($random);
                $x[] = $u;
                $y[] = 0.6 * $u + self::uniform($random) + self::uniform($random);
                $a[] = min(3, (int) (1.3 * $u + self::uniform($random)));
                $b[] = min(2, (int) ($u + 1.2 * self::uniform($random)) % 3);
            }

            return Table::of([
                'x' => new NumberColumn($x),
                'y' => new NumberColumn($y),
                'a' => new CodedColumn($a, ['p', 'q', 'r', 's']),
                'b' => new CodedColumn($b, ['k', 'l', 'm']),
            ]);
        };
        $large = $draw(60000, 1);
        foreach ([['x', 'y'], ['a', 'b'], ['a', 'y']] as [$first, $second]) {
            $truth = Strength::of($first, $large->column($first), $second, $large->column($second))?->strength;
            $held = 0;
            for ($i = 0; $i < 200; ++$i) {
                $small = $draw(300, 1000 + $i);
                $pair = Strength::of($first, $small->column($first), $second, $small->column($second));
                $held += null !== $pair && $pair->low <= $truth && $truth <= $pair->high ? 1 : 0;
            }
            self::assertGreaterThanOrEqual(182, $held, "$first with $second");
            // Of two categories it is wider than need be where they go together strongly.
            self::assertLessThanOrEqual('b' === $second ? 200 : 199, $held, "$first with $second");
        }
    }

    public function testEachPairOfKindsIsMeasuredAsItWants(): void
    {
        $number = new NumberColumn([1.0, 2.0, 3.0, 4.0, 5.0, 60.0]);
        $down = new NumberColumn([9.0, 8.0, 7.0, \NAN, 5.0, 1.0]);
        $date = new DateColumn([0, 86400, 172800, 259200, 345600, 432000]);
        $yes = CodedColumn::fromCells(['Yes', 'No', 'No', 'Yes', 'Yes', 'Yes'], Kind::YesNo);
        $coded = CodedColumn::fromCells(['a', 'a', 'b', 'b', 'c', 'c']);
        $text = new TextColumn(['x', 'y', 'z', 'x', 'y', 'z'], Kind::Text);
        $is = static fn ($a, $b): ?string => Strength::of('one', $a, 'two', $b)?->measure;
        self::assertSame('rank correlation', $is($number, $down));
        self::assertSame('rank correlation', $is($number, $date));
        self::assertSame('rank correlation', $is($yes, $number));
        self::assertSame('correlation ratio', $is($number, $coded));
        self::assertSame('correlation ratio', $is($coded, $date));
        self::assertSame("Cramér's V", $is($coded, $yes));
        self::assertNull($is($text, $number));
        self::assertNull($is($number, new NumberColumn([2.0, 2.0, 2.0, 2.0, 2.0, 2.0])));
        $pair = Strength::of('one', $number, 'two', $down);
        self::assertNotNull($pair);
        self::assertSame([-1.0, 5], [$pair->strength, $pair->n]);
        self::assertNotSame(-1.0, $pair->pearson, 'by rank is not by value');
    }

    public function testLikeStandsByLikeAndTheTargetFirst(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(5));
        $columns = [];
        $base = [[], [], []];
        for ($i = 0; $i < 300; ++$i) {
            foreach ($base as $g => $_) {
                $base[$g][] = self::uniform($random);
            }
        }
        foreach ([0, 1, 2, 0, 1, 2, 0, 1] as $k => $g) {
            $columns["c$k"] = new NumberColumn(array_map(static fn (float $v) => $v + 0.1 * self::uniform($random), $base[$g]));
        }
        $columns['7'] = new NumberColumn(array_map(static fn (float $v) => $v * $v, $base[2]));
        $columns['word'] = new TextColumn(array_fill(0, 300, 'w'), Kind::Text);
        $columns['same'] = CodedColumn::fromCells(array_fill(0, 300, 'one'));
        $map = Together::of(Table::of($columns), 'c4');
        self::assertSame('c4', $map->order[0]);
        self::assertSame([['column' => 'word', 'why' => 'text'], ['column' => 'same', 'why' => 'constant']], $map->leftOut);
        $rest = array_map(static fn (string $n) => '7' === $n ? 2 : (int) $n[1] % 3, \array_slice($map->order, 1));
        self::assertCount(
            3,
            array_filter($rest, static fn (int $g, int $i) => 0 === $i || $g !== $rest[$i - 1], \ARRAY_FILTER_USE_BOTH),
            'each family in one run: '.implode(' ', $map->order),
        );
        self::assertCount(36, $map->pairs);
        foreach ($map->pairs as $i => $pair) {
            self::assertLessThanOrEqual(abs($map->pairs[max(0, $i - 1)]->strength), abs($pair->strength));
            self::assertGreaterThanOrEqual($pair->p, $pair->adjusted);
        }
        self::assertSame(['a'], Together::of(Table::of(['a' => new NumberColumn([1.0, 2.0])]))->order);
        self::assertSame([], Together::of(Table::of([], 0))->order);
    }

    public function testWhatIsMissingTogetherAndWhere(): void
    {
        $a = $b = $who = [];
        for ($i = 0; $i < 400; ++$i) {
            $who[] = 0 === $i % 2 ? 'tenant' : 'owner';
            $gone = 0 === $i % 8;
            $a[] = $gone ? \NAN : 1.0;
            $b[] = $gone || 1 === $i ? \NAN : 2.0;
        }
        $picture = MissingPattern::of(Table::of([
            'a' => new NumberColumn($a),
            'b' => new NumberColumn($b),
            'who' => CodedColumn::fromCells($who),
            'full' => new NumberColumn(array_fill(0, 400, 3.0)),
        ]));
        self::assertSame(['b', 'a'], array_column($picture->columns, 'column'));
        self::assertSame(349, $picture->complete);
        self::assertSame(
            [['missing' => [], 'records' => 349], ['missing' => ['b', 'a'], 'records' => 50], ['missing' => ['b'], 'records' => 1]],
            $picture->patterns,
        );
        self::assertSame(0, $picture->other);
        self::assertSame(
            ['a', 'who', 'tenant', 200, 50],
            [
                $picture->where[0]['column'],
                $picture->where[0]['by'],
                $picture->where[0]['levels'][0]['value'],
                $picture->where[0]['levels'][0]['records'],
                $picture->where[0]['levels'][0]['missing'],
            ],
        );
        $none = MissingPattern::of(Table::of(['x' => new NumberColumn([1.0])]));
        self::assertSame([1, [], [['missing' => [], 'records' => 1]]], [$none->complete, $none->columns, $none->patterns]);
    }

    public function testWhatStandsApartAndWhatIsLopsided(): void
    {
        $values = array_map(floatval(...), range(1, 100));
        $values[] = 1000.0;
        $values[] = -700.0;
        $values[] = \NAN;
        $level = [...array_fill(0, 101, 'usual'), 'odd', 'usual'];
        $table = Table::of([
            'v' => new NumberColumn($values),
            'flat' => new NumberColumn(array_fill(0, 103, 1.0)),
            'l' => CodedColumn::fromCells($level),
        ]);
        [$found] = StandsApart::of($table)->numbered(range(10, 112))->columns;
        self::assertSame(
            ['v', 1, 1, 2, 1.0, 100.0],
            [$found['column'], $found['below'], $found['above'], $found['far'], $found['low'], $found['high']],
        );
        self::assertSame([110, 111], array_column($found['apart'], 'row'));
        self::assertSame([1000.0, -700.0], array_column($found['apart'], 'value'));
        $picture = Lopsided::of($table);
        self::assertSame(['v'], array_column($picture->numbers, 'column'));
        self::assertSame([['value' => 'odd', 'records' => 1]], $picture->categories[0]['rare']);
        self::assertSame(102, array_sum(array_column($picture->numbers[0]['bins'], 'count')));
    }

    /** @param ?list<string> $columns */
    private static function repeats(Table $table, ?array $columns = null): Repeats
    {
        $columns ??= $table->names();

        return Repeats::among([$table], $columns, static fn (int $row): array => array_map(
            static fn (string $name): ?string => $table->column($name)->text($row),
            $columns,
        ));
    }

    public function testRepeatsInAllColumnsAndInSome(): void
    {
        $table = Table::of([
            'id' => new TextColumn(['a', 'b', 'a', 'c', 'a', null, null], Kind::Text),
            'v' => new NumberColumn([1.0, 2.0, 1.0, 2.0, 5.0, \NAN, \NAN]),
        ]);
        $full = self::repeats($table);
        self::assertSame([1, 2, 1], [$full->groups, $full->repeated, $full->more]);
        self::assertSame([['records' => 2, 'rows' => [0, 2], 'cells' => ['a', '1']]], $full->examples);
        $near = self::repeats($table, ['id']);
        self::assertSame([['times' => 3, 'groups' => 1]], $near->sizes, 'records without an id are not the same one');
        self::assertSame([0, 2, 4], $near->examples[0]['rows']);
        self::assertSame(0, self::repeats($table, [])->groups);
    }

    /** Part by part and with a number for each record, or all of it and with its cells: the same is found. */
    public function testRepeatsOfATableThatComesInParts(): void
    {
        mt_srand(8);
        foreach ([12, 60, 3000] as $different) {
            $rows = range(0, 2999);
            $which = array_map(static fn (int $i): int => mt_rand(1, $different), $rows);
            $table = Table::of([
                // The same digits in another cell, 0 and -0, and what is missing or looks so, are told apart or not as texts are.
                'n' => new NumberColumn(array_map(static fn (int $w): float => 0 === $w % 7 ? \NAN : (0 === $w % 5 ? -0.0 : $w / 4), $which)),
                'c' => new CodedColumn(array_map(static fn (int $w): int => $w % 3 - 1, $which), ['1', '11'], Kind::Category),
                'd' => new DateColumn(array_map(static fn (int $w): int => 0 === $w % 11 ? DateColumn::MISSING : 86400 * $w, $which)),
                't' => new TextColumn(array_map(static fn (int $w): ?string => 0 === $w % 9 ? null : str_repeat('1', $w % 4), $which)),
            ]);
            $groups = [];
            foreach ($rows as $row) {
                $cells = array_map(
                    static fn ($c): ?string => $c->isMissing($row) ? null : '='.$c->text($row),
                    array_values($table->columns()),
                );
                if ([] !== array_filter($cells)) {
                    $groups[json_encode($cells)][] = $row;
                }
            }
            $groups = array_values(array_filter($groups, static fn (array $own): bool => \count($own) > 1));
            usort($groups, static fn (array $a, array $b): int => \count($b) <=> \count($a) ?: $a[0] <=> $b[0]);
            $parts = array_map(static fn (int $from): Table => $table->take(range($from, min(2999, $from + 699))), range(0, 2999, 700));
            $found = Repeats::among($parts, $table->names(), static fn (int $row): array => array_map(
                static fn ($c): ?string => $c->text($row),
                array_values($table->columns()),
            ));
            self::assertEquals(self::repeats($table), $found);
            self::assertSame([3000, \count($groups), array_sum(array_map(\count(...), $groups))], [
                $found->records, $found->groups, $found->repeated,
            ]);
            self::assertSame(
                array_map(static fn (array $own): array => [\count($own), \array_slice($own, 0, 40)], \array_slice($groups, 0, 50)),
                array_map(static fn (array $e): array => [$e['records'], $e['rows']], $found->examples),
            );
            self::assertSame($found->groups, array_sum(array_column($found->sizes, 'groups')));
        }
    }

    /** @return iterable<string, array{string, string, string, int}> */
    public static function forms(): iterable
    {
        yield 'two numbers' => ['n', 'm', 'points', 60];
        yield 'number by category' => ['n', 'c', 'boxes', 60];
        yield 'category by number' => ['c', 'n', 'boxes', 60];
        yield 'two categories' => ['c', 'y', 'mosaic', 60];
        yield 'number over time' => ['d', 'n', 'line', 59];
        yield 'share over time' => ['c', 'd', 'line', 59];
        yield 'yes over time' => ['y', 'd', 'line', 59];
        yield 'two dates' => ['d', 'e', 'points', 59];
        yield 'text by category' => ['t', 'c', 'mosaic', 60];
    }

    #[DataProvider('forms')]
    public function testTwoColumnsInTheFormTheirKindsWant(string $x, string $y, string $form, int $records): void
    {
        $n = $m = $c = $yes = $d = $e = $t = $event = [];
        for ($i = 0; $i < 60; ++$i) {
            $n[] = $i + 0.5;
            $m[] = 100.0 - $i;
            $c[] = 'abc'[$i % 3];
            $yes[] = 0 === $i % 4 ? 'yes' : 'no';
            $d[] = 5 === $i ? DateColumn::MISSING : $i * 86400 * 9;
            $e[] = $i * 86400;
            $t[] = 'w'.$i % 20;
            $event[] = $i < 10 ? \NAN : (float) ($i % 2);
        }
        $table = Table::of([
            'n' => new NumberColumn($n),
            'm' => new NumberColumn($m),
            'c' => CodedColumn::fromCells($c),
            'y' => CodedColumn::fromCells($yes, Kind::YesNo),
            'd' => new DateColumn($d),
            'e' => new DateColumn($e),
            't' => new TextColumn($t, Kind::Text),
        ]);
        $picture = TwoColumns::of($table, $x, $y, $event);
        self::assertSame([$form, $records], [$picture->form, $picture->records]);
        self::assertNotSame([], $picture->parts);
        $numbered = $picture->numbered(range(1000, 1059));
        self::assertCount(\count($picture->parts), $numbered->parts);
        $parts = $picture->parts;
        if ('points' === $form) {
            self::assertCount(10, array_filter($parts, static fn (array $p) => null === $p['event']) + (59 === $records ? [99 => 1] : []));
            self::assertSame($parts[0]['row'] + 1000, $numbered->parts[0]['row']);
        } elseif ('mosaic' === $form && 't' !== $x) {
            self::assertSame($records, array_sum(array_column($parts, 'records')));
            self::assertSame(50, array_sum(array_column($parts, 'judged')));
            self::assertEqualsWithDelta($records, array_sum(array_column($parts, 'expected')), 1e-9);
        } elseif ('boxes' === $form) {
            self::assertSame($records, array_sum(array_column($parts, 'records')));
            self::assertLessThan($parts[0]['q3'], $parts[0]['q1']);
        } elseif ('line' === $form) {
            self::assertSame('month', $parts[0]['period']);
            self::assertSame(['1970-01-01', '1970-01-31'], [$parts[0]['from'], $parts[0]['to']]);
            self::assertSame(
                'yes over time' === $this->dataName() ? ['yes'] : ('number over time' === $this->dataName() ? [null] : ['a', 'b', 'c']),
                array_values(array_unique(array_column($parts, 'of'))),
            );
        }
    }

    public function testManyPointsAreCountedInAGridThatLosesNone(): void
    {
        $random = new Randomizer(new Xoshiro256StarStar(3));
        $x = $y = $event = [];
        for ($i = 0; $i < 5000; ++$i) {
            $x[] = 17 === $i ? 1e6 : 9 * self::uniform($random);
            $y[] = 18 === $i ? \NAN : (float) $random->getInt(0, 12);
            $event[] = 1.0;
        }
        $picture = TwoColumns::of(Table::of(['x' => new NumberColumn($x), 'y' => new NumberColumn($y)]), 'x', 'y', $event);
        self::assertSame(['density', 4999], [$picture->form, $picture->records]);
        self::assertSame(4999, array_sum(array_column($picture->parts, 'records')));
        self::assertLessThan(1300, \count($picture->parts));
        self::assertSame(1e6, max([0.0, ...array_column($picture->parts, 'toX')]));
        foreach ($picture->parts as $part) {
            self::assertSame(1.0, $part['share']);
            self::assertLessThanOrEqual($part['y2'], $part['y']);
        }
        self::assertSame(
            [],
            TwoColumns::of(
                Table::of(['x' => new NumberColumn(array_fill(0, 4000, \NAN)), 'y' => new NumberColumn(array_fill(0, 4000, 1.0))]),
                'x',
                'y',
            )->parts,
        );
    }
}
