<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Explain;

use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Random;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\TestCase;
use Random\Randomizer;

/** How sure an answer is, and how much a record is like those seen: against what was made. */
final class SureTest extends TestCase
{
    private static function normal(Randomizer $random): float
    {
        return sqrt(-2 * log(($random->getInt(0, 999_999) + 1) / 1e6)) * cos(2 * \M_PI * $random->getInt(0, 999_999) / 1e6);
    }

    /** Errors that grow with the number: in all, and in each third of what is predicted, intervals hold what they promise. */
    public function testIntervalsOfNumbersHoldInAllAndInThirds(): void
    {
        $held = [80 => [0, 0, 0], 95 => [0, 0, 0]];
        $all = [0, 0, 0];
        foreach (range(1, 12) as $seed) {
            $random = Random::stream($seed, 'sure');
            $draw = static function (int $n) use ($random): array {
                $said = array_map(static fn (): float => $random->getInt(0, 900) / 10, range(1, $n));

                return [$said, array_map(static fn (float $s): float => $s + (2 + $s / 6) * self::normal($random), $said)];
            };
            [$said, $came] = $draw(1000);
            $sure = new Sure(Task::NUMBER, $came, new Answers($said), null);
            [$new, $truth] = $draw(500);
            foreach ($new as $i => $s) {
                $third = min(2, (int) ($s / 30));
                ++$all[$third];
                foreach ([80, 95] as $level) {
                    [$low, $high] = $sure->ofNumber($s, $level) ?? [0.0, 0.0];
                    $held[$level][$third] += $low <= $truth[$i] && $truth[$i] <= $high ? 1 : 0;
                }
            }
        }
        foreach ($held as $level => $thirds) {
            self::assertEqualsWithDelta($level, 100 * array_sum($thirds) / array_sum($all), 2.0);
            foreach ($thirds as $k => $hits) {
                self::assertEqualsWithDelta($level, 100 * $hits / $all[$k], 4.0, "third $k at $level");
            }
        }
    }

    public function testTheShareAmongSimilarChancesHoldsAWrongChanceUpToWhatCame(): void
    {
        $random = Random::stream(3, 'alike');
        $said = $came = [];
        for ($i = 0; $i < 4000; ++$i) {
            $said[] = $random->getInt(0, 1000) / 1000;
            $came[] = $random->getInt(0, 999) / 1000 < $said[$i] / 2 ? 1.0 : 0.0;
        }
        $sure = new Sure(Task::TWO, $came, new Answers($said), ['no', 'yes']);
        $told = $sure->ofChance(0.6);
        self::assertNotNull($told);
        self::assertSame(200, $told['records']);
        self::assertTrue($told['interval']->low < 0.3 && 0.3 < $told['interval']->high, 'half of what was said comes');
        self::assertTrue($told['from'] > 0.55 && $told['to'] < 0.65);
        self::assertSame(200, $sure->ofChance(0.0)['records'] ?? 0, 'at the end, too');
        self::assertNull((new Sure(Task::TWO, [], new Answers([]), ['no', 'yes']))->ofChance(0.5));
        self::assertNull($sure->ofNumber(0.5, 80));
    }

    public function testSetsOfClassesHoldWhatComes(): void
    {
        $random = Random::stream(5, 'sets');
        $draw = static function (int $n) use ($random): array {
            $chances = $came = [];
            for ($i = 0; $i < $n; ++$i) {
                $raw = [$random->getInt(1, 100) ** 2, $random->getInt(1, 100) ** 2, $random->getInt(1, 100) ** 2];
                $own = array_map(static fn (int $r): float => $r / array_sum($raw), $raw);
                $u = $random->getInt(0, 999_999) / 1e6;
                $came[] = $u < $own[0] ? 0.0 : ($u < $own[0] + $own[1] ? 1.0 : 2.0);
                array_push($chances, ...$own);
            }

            return [new Answers($chances, 3), $came];
        };
        [$answers, $came] = $draw(1500);
        $names = ['a', 'b', 'c'];
        $sure = new Sure(Task::MORE, $came, $answers, $names);
        [$new, $truth] = $draw(3000);
        $held = $wide = 0;
        foreach ($truth as $i => $class) {
            $set = $sure->ofClasses($new->of($i));
            self::assertNotSame([], $set);
            $held += \in_array($names[(int) $class], $set, true) ? 1 : 0;
            $wide += \count($set);
        }
        self::assertGreaterThan(0.88, $held / 3000);
        self::assertLessThan(3.0, $wide / 3000);
    }

    public function testTooFewRecordsPromiseNothing(): void
    {
        $few = new Sure(Task::NUMBER, [1.0, 2.0, 3.0], new Answers([1.5, 2.5, \NAN]), null);
        self::assertNull($few->ofNumber(1.0, 95));
    }

    /** Uniform for records really seen; low where the density is low; by a column's spread and information, not its unit. */
    public function testLikenessFollowsTheDensity(): void
    {
        $random = Random::stream(7, 'like');
        $draw = static function (int $n) use ($random): Table {
            $a = $b = $c = [];
            for ($i = 0; $i < $n; ++$i) {
                $a[] = $x = self::normal($random);
                $b[] = 1000 * (0.8 * $x + 0.6 * self::normal($random));
                $c[] = $random->getInt(0, 9) < 9 ? 0 : 1;
            }

            return Table::of(
                [
                    'a' => new NumberColumn($a),
                    'b' => new NumberColumn($b),
                    'c' => new CodedColumn($c, ['often', 'seldom'], Kind::Category),
                    'note' => new TextColumn(array_fill(0, $n, 'x')),
                ],
                $n,
            );
        };
        $seen = $draw(500);
        $likeness = new Likeness($seen);
        $own = array_map(static fn (int $i): float => $likeness->of($seen, $i, $i), range(0, 499));
        sort($own);
        foreach ($own as $k => $value) {
            self::assertEqualsWithDelta(($k + 0.5) / 500, $value, 0.01, 'uniform for those seen');
        }
        $new = $draw(400);
        $values = array_map(static fn (int $i): float => $likeness->of($new, $i), range(0, 399));
        self::assertEqualsWithDelta(0.5, array_sum($values) / 400, 0.06, 'and about so for others like them');
        $at = static fn (?float $a, ?float $b, ?string $c): float => $likeness->of(
            Table::of(
                [
                    'a' => new NumberColumn([$a ?? \NAN]),
                    'b' => new NumberColumn([$b ?? \NAN]),
                    'c' => CodedColumn::fromCells([$c]),
                    'note' => new TextColumn(['y']),
                ],
                1,
            ),
            0,
        );
        self::assertGreaterThan(0.8, $at(0.0, 0.0, 'often'));
        self::assertLessThan(0.02, $at(2.0, -2000.0, 'often'), 'each is usual, both together are not');
        self::assertLessThan($at(0.0, 0.0, 'often'), $at(0.0, 0.0, 'seldom'));
        self::assertLessThan($at(0.0, 0.0, 'seldom'), $at(0.0, 0.0, 'never'));
        self::assertLessThan($at(0.0, 0.0, 'often'), $at(null, 0.0, 'often'));
    }
}
