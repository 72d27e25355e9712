<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Guide;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Guide\Judging;
use Dokimos\Core\Guide\Weighed;
use Dokimos\Core\Random;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class GuidedTest extends TestCase
{
    private const ROWS = 1400;

    /**
     * Two categories and two numbers, with an outcome that follows what the case plants.
     *
     * @param \Closure(int, int, float, float): float $truth log-odds of the categories' places and the numbers
     *
     * @return array{Table, list<float>}
     */
    private static function planted(\Closure $truth, int $rows = self::ROWS): array
    {
        $random = Random::stream(11, 'planted');
        $share = static fn (): float => $random->getInt(0, 1_000_000) / 1_000_000;
        $a = $b = $x = $z = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $a[] = $random->getInt(0, 3);
            $b[] = $random->getInt(0, 2);
            $x[] = round(1 + 9 * $share(), 3);
            $z[] = round(1 + 9 * $share(), 3);
            $y[] = $share() < 1 / (1 + exp(-$truth($a[$i], $b[$i], $x[$i], $z[$i]))) ? 1.0 : 0.0;
        }
        $table = Table::of([
            'slot' => new CodedColumn(
                $a,
                ['early', 'noon', 'late', 'night'],
                Kind::Category,
            ), 'channel' => new CodedColumn($b, ['web', 'desk', 'phone'], Kind::Category),
            'cost' => new NumberColumn($x), 'years' => new NumberColumn($z),
        ], $rows);

        return [$table, $y];
    }

    /** @param list<float> $y */
    private static function guided(Table $table, array $y, int $seed = 3): Guided
    {
        return new Guided(
            $table,
            $table->names(),
            $y,
            ['no', 'yes'],
            null,
            null,
            [],
            Figures::ranking(Task::TWO),
            ['logistic', 'tree', 'boosting'],
            $seed,
        );
    }

    /** @return iterable<string, array{\Closure(int, int, float, float): float, list<string>}> */
    public static function structures(): iterable
    {
        yield 'a pair of categories that acts together' => [
            static fn (int $a, int $b): float => ($a >= 2) === (1 === $b) ? 1.2 : -1.2,
            ['slot', 'channel'],
        ];
        yield 'a ratio' => [static fn (int $a, int $b, float $x, float $z): float => $x / $z > 1.0 ? 1.5 : -1.5, ['cost', 'years']];
        yield 'a category that counts above a bound' => [
            static fn (int $a, int $b, float $x): float => $x > 5.5 ? [2.0, -2.0, 2.0, -2.0][$a] : [-1.0, 1.0, -1.0, 1.0][$a],
            ['cost', 'slot'],
        ];
    }

    /**
     * @param \Closure(int, int, float, float): float $truth
     * @param list<string>                            $of
     */
    #[DataProvider('structures')]
    public function testWhatWasPlantedIsThoughtOfFirst(\Closure $truth, array $of): void
    {
        [$table, $y] = self::planted($truth);
        $weighed = self::guided($table, $y)->making(null, null, 3);
        $pairs = array_map(static fn (Weighed $w): array => $w->idea->of, $weighed);
        self::assertNotEmpty($pairs);
        self::assertEqualsCanonicalizing($of, $pairs[0]);
        foreach ($weighed as $one) {
            self::assertSame($one->kept, null !== $one->low && $one->low > 0.0);
        }
    }

    /**
     * What bends is no news to a scout that bends; a learner that follows a straight line needs ranges, and only those learners have
     * them.
     */
    public function testABentCurveIsForLearnersThatFollowAStraightLine(): void
    {
        [$table, $y] = self::planted(static fn (int $a, int $b, float $x): float => abs($x - 5.5) > 2.2 ? 1.3 : -1.3);
        $guided = self::guided($table, $y);
        $weighed = $guided->making();
        $kept = array_values(array_filter($weighed, static fn (Weighed $w): bool => $w->kept));
        self::assertSame(
            [['cost in ranges', Weighed::STRAIGHT]],
            array_map(static fn (Weighed $w): array => [$w->idea->name, $w->for], $kept),
        );
        self::assertSame($guided->stepsOf(0, $weighed), $guided->stepsOf(1, $weighed));
        self::assertSame('bins', array_column($guided->stepsOf(2, $weighed), 'step')[\count($guided->stepsOf(1, $weighed))]);
        // Logistic regression with it, trees as the columns came.
        self::assertSame([2, 0, 0], array_map(static fn (Candidate $c): int => $c->variant, $guided->candidates(3, $weighed)));
        self::assertEquals(
            $weighed,
            array_map(
                Weighed::fromArray(...),
                json_decode(json_encode(array_map(static fn (Weighed $w): array => $w->toArray(), $weighed), \JSON_THROW_ON_ERROR), true),
            ),
        );
        $without = new Guided(
            $table,
            $table->names(),
            $y,
            ['no', 'yes'],
            null,
            null,
            [],
            Figures::ranking(Task::TWO),
            ['tree', 'boosting'],
            3,
        );
        self::assertSame(
            [],
            array_filter($without->making(), static fn (Weighed $w): bool => Weighed::STRAIGHT === $w->for),
            'nobody would have it',
        );
    }

    /** Ways to fill come before what fills the rest. */
    public function testAWayToFillComesBeforeTheUsualFilling(): void
    {
        [$table, $y] = self::planted(static fn (int $a): float => $a - 1.5, 600);
        $holes = $table->number('cost')->values;
        foreach ($holes as $i => $v) {
            $holes[$i] = 0 === $i % 6 ? \NAN : $v;
        }
        $guided = self::guided($table->with('cost', new NumberColumn(array_values($holes))), $y);
        $idea = $guided->making(null, null, 1)[0]->idea;
        self::assertSame(['cost filled by a model', true], [$idea->name, $idea->first]);
        $steps = $guided->stepsOf(1, [new Weighed($idea, 0.1, 0.05, 0.2, true)]);
        self::assertSame(['by model'], array_column($steps, 'method'));
        self::assertSame(['median'], array_column($guided->stepsOf(0, []), 'method'));
    }

    public function testOfNoiseNothingIsKept(): void
    {
        [$table, $y] = self::planted(static fn (): float => 0.0, 700);
        self::assertSame([], array_filter(self::guided($table, $y)->making(), static fn (Weighed $w): bool => $w->kept));
    }

    public function testNoChoiceReadsTheJudgingPart(): void
    {
        [$table, $y] = self::planted(static fn (int $a, int $b): float => ($a >= 2) === (1 === $b) ? 1.2 : -1.2);
        // Divided by groups, whatever the outcomes are.
        $apart = new Apart(false, range(0, self::ROWS - 1));
        $of = static fn (array $outcome): Guided => new Guided(
            $table,
            $table->names(),
            array_map(floatval(...), array_values($outcome)),
            ['no', 'yes'],
            null,
            $apart,
            [],
            Figures::ranking(Task::TWO),
            ['logistic', 'tree'],
            3,
        );
        $guided = $of($y);
        $all = [...$guided->judging, ...$guided->choosing];
        sort($all);
        self::assertSame(range(0, self::ROWS - 1), $all);
        $turned = $y;
        foreach ($guided->judging as $row) {
            $turned[$row] = 1.0 - $turned[$row];
        }
        $other = $of($turned);
        self::assertSame($guided->judging, $other->judging);
        $weighed = $guided->making(null, null, 3);
        self::assertEquals($weighed, $other->making(null, null, 3));
        $tries = $guided->candidates(3, $weighed);
        \assert([] !== $tries);
        self::assertSame(
            array_column($guided->weigh($tries, 0, $weighed), 'value'),
            array_column($other->weigh($tries, 0, $weighed), 'value'),
        );
        // Only the last figure does.
        $judged = array_map(static fn (Guided $g): ?float => $g->judged($tries[0], $weighed)->value, [$guided, $other]);
        self::assertEqualsWithDelta(1.0, ($judged[0] ?? 0.0) + ($judged[1] ?? 0.0), 1e-9);
    }

    public function testTriesBeginWithUsualSettingsAndClimbByFigureAndFamily(): void
    {
        [$table, $y] = self::planted(static fn (int $a): float => $a - 1.5, 600);
        $guided = self::guided($table, $y);
        $tries = $guided->candidates(12, []);
        self::assertSame([0, 1, 2, 0, 1, 2], \array_slice(array_map(static fn (Candidate $c): int => $c->space, $tries), 0, 6));
        self::assertSame(['missing' => 'fill and mark'], $tries[0]->settings);
        self::assertEquals(\array_slice($guided->candidates(30, []), 0, 12), $tries);
        $values = [
            0 => 0.6,
            1 => 0.5,
            2 => 0.9,
            3 => 0.61,
            4 => null,
            5 => 0.89,
            6 => 0.62,
            7 => 0.52,
            8 => 0.88,
            9 => 0.1,
            10 => 0.2,
            11 => 0.3,
        ];
        $on = $guided->survivors($values, $tries, 0);
        // The best third, and of each learner at least the best.
        self::assertSame([2, 5, 8, 6, 3, 7], [...\array_slice($on, 0, 4), ...\array_slice($on, 4, 1), ...\array_slice($on, 5)]);
        self::assertSame([2, 6, 7], $guided->families($values, $tries));
        self::assertSame(
            [2, 6, 7],
            array_values(array_filter(
                $guided->survivors($values, $tries, 0, 1),
                static fn (int $p): bool => \in_array($p, [2, 6, 7], true),
            )),
        );
        // The same in one go or try by try.
        $together = array_column($guided->weigh([$tries[0], $tries[1], $tries[2]], 0, []), 'value');
        $alone = array_map(static fn (Candidate $c): ?float => $guided->weigh([$c], 0, [])[0]['value'], [$tries[0], $tries[1], $tries[2]]);
        self::assertSame($together, $alone);
    }

    public function testTheJudgingPartHoldsEnoughEvents(): void
    {
        $rows = range(0, 2999);
        $rare = array_map(static fn (int $i): float => 0 === $i % 10 ? 1.0 : 0.0, $rows);
        $parts = Judging::divide(Task::TWO, $rare, $rows, 1);
        // A fifth would hold 60 of 300 events; two fifths is the most that is set aside.
        self::assertGreaterThan(0.3 * 3000, \count($parts['judging']));
        self::assertLessThanOrEqual(0.5 * 3000, \count($parts['judging']));
        $many = Judging::divide(Task::NUMBER, $rare, range(0, 2999), 1);
        self::assertGreaterThanOrEqual(990, \count($many['judging']));
        self::assertSame($parts, Judging::divide(Task::TWO, $rare, $rows, 1));
    }
}
