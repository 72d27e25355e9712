<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Search;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Random;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Search\CannotSearch;
use Dokimos\Core\Search\Draws;
use Dokimos\Core\Search\Effects;
use Dokimos\Core\Search\Space;
use Dokimos\Core\Search\Winner;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class SearchTest extends TestCase
{
    private static function boosting(): Space
    {
        return Space::of('boosting', [
            'trees' => ['list' => [50, 100, 200]],
            'rate' => ['from' => 0.01, 'to' => 0.16, 'points' => 5, 'by' => 'factors'],
            'leaf' => ['from' => 10, 'to' => 40, 'points' => 4],
            'ridge' => 2.0,
        ]);
    }

    /**
     * @param list<Candidate> $all
     *
     * @return list<string>
     */
    private static function keys(array $all): array
    {
        return array_map(
            static fn (Candidate $c): string => json_encode([$c->space, $c->variant, $c->choice, $c->settings], \JSON_THROW_ON_ERROR),
            $all,
        );
    }

    public function testAllCombinationsAreEachThereOnce(): void
    {
        $spaces = [self::boosting(), Space::of('tree', ['depth' => ['list' => [3, 4]]])];
        $keys = self::keys(Draws::of(Draws::ALL, $spaces, 2, 3, null, 1));
        self::assertCount((3 * 5 * 4 + 2) * 2 * 3, $keys);
        self::assertSame($keys, array_unique($keys));
        $first = Draws::of(Draws::ALL, $spaces, 2, 3, null, 1)[0];
        self::assertSame(['ridge' => 2.0, 'trees' => 50, 'rate' => 0.01, 'leaf' => 10], $first->settings);
        $rates = array_unique(array_map(
            static fn (Candidate $c): mixed => $c->settings['rate'] ?? null,
            Draws::of(Draws::ALL, [self::boosting()], 1, 1, null, 1),
        ));
        self::assertEqualsCanonicalizing([0.01, 0.02, 0.04, 0.08, 0.16], $rates);
    }

    /** @return iterable<string, array{string}> */
    public static function drawn(): iterable
    {
        yield 'a sample' => [Draws::SAMPLE];
        yield 'random draws' => [Draws::RANDOM];
    }

    #[DataProvider('drawn')]
    public function testDrawsAreDistinctInsideTheirRangesAndGoOnWhereTheyEnded(string $way): void
    {
        $spaces = [
            self::boosting(),
            Space::of('tree', ['depth' => ['list' => [3, 4, 5]], 'leaf' => ['from' => 5, 'to' => 50, 'points' => 4]]),
        ];
        $twenty = Draws::of($way, $spaces, 2, 2, 20, 7);
        $forty = Draws::of($way, $spaces, 2, 2, 40, 7);
        self::assertSame(self::keys($twenty), \array_slice(self::keys($forty), 0, 20));
        self::assertCount(40, array_unique(self::keys($forty)));
        self::assertNotSame(self::keys($twenty), self::keys(Draws::of($way, $spaces, 2, 2, 20, 8)));
        $seen = [];
        foreach (Draws::of($way, $spaces, 2, 2, 200, 7) as $one) {
            $seen[$one->space][$one->variant][$one->choice] = true;
            foreach ($one->settings as $name => $value) {
                [$low, $high] = [
                    ['rate' => [0.01, 0.16], 'leaf' => [10, 40], 'trees' => [50, 200], 'ridge' => [2, 2]],
                    ['depth' => [3, 5], 'leaf' => [5, 50]],
                ][$one->space][$name];
                self::assertGreaterThanOrEqual($low, $value, $name);
                self::assertLessThanOrEqual($high, $value, $name);
                self::assertSame('rate' === $name || 'ridge' === $name, \is_float($value), $name);
            }
        }
        self::assertCount(2, $seen);
        self::assertCount(2, $seen[0]);
        self::assertCount(2, $seen[0][0]);
    }

    public function testASampleOfMoreThanThereAreIsAllOfThem(): void
    {
        $space = [Space::of('tree', ['depth' => ['list' => [2, 3, 4]]])];
        self::assertCount(3, Draws::of(Draws::SAMPLE, $space, 1, 1, 50, 1));
        self::assertCount(3, Draws::of(Draws::RANDOM, $space, 1, 1, 50, 1));
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        yield 'no such setting' => ['tree', ['trees' => ['list' => [1]]], 'has no setting "trees"'];
        yield 'beyond its limits' => ['boosting', ['rate' => ['list' => [0.1, 7]]], 'no value of "Learning rate"'];
        yield 'no number' => ['boosting', ['rate' => ['list' => ['fast']]], 'no value of "Learning rate"'];
        yield 'part of a tree' => ['boosting', ['trees' => ['list' => [10, 10.5]]], 'no value of "Trees, at most"'];
        yield 'a range that falls' => ['boosting', ['rate' => ['from' => 0.2, 'to' => 0.1]], 'rises'];
        yield 'factors from nothing' => ['tree', ['improvement' => ['from' => 0, 'to' => 1, 'by' => 'factors']], 'begins above 0'];
        yield 'a range of names' => ['logistic', ['penalty' => ['from' => 1, 'to' => 2]], 'list its values'];
        yield 'an empty list' => ['boosting', ['rate' => ['list' => []]], '1 to 200 values'];
        yield 'a fixed value that is none' => ['boosting', ['rate' => 'fast'], 'Learning rate'];
    }

    /** @param array<string, mixed> $given */
    #[DataProvider('wrong')]
    public function testWhatCannotBeVariedIsSaid(string $learner, array $given, string $says): void
    {
        $this->expectExceptionMessage($says);
        Space::of($learner, $given);
    }

    public function testTooManyCombinationsAreRefused(): void
    {
        $this->expectException(CannotSearch::class);
        $this->expectExceptionMessage('40,000 combinations');
        $many = ['list' => range(1, 200)];
        Draws::of(
            Draws::ALL,
            [Space::of('tree', ['depth' => ['list' => range(1, 20)], 'leaf' => $many, 'divide' => ['list' => range(2, 11)]])],
            1,
            1,
            null,
            1,
        );
    }

    public function testEdgesArePointedOutWhereTheSettingGoesOn(): void
    {
        $byName = [];
        foreach (Space::of(
            'boosting',
            [
                'rows' => ['list' => [0.5, 0.8, 1.0]],
                'leaf' => ['list' => [10, 20, 40]],
                'rate' => ['from' => 0.02, 'to' => 0.16, 'points' => 4, 'by' => 'factors'],
            ],
        )->varied as $vary) {
            $byName[$vary->setting->name] = $vary;
        }
        self::assertSame([-1, 0, 1], [$byName['leaf']->edge(10), $byName['leaf']->edge(20), $byName['leaf']->edge(40)]);
        // There are no more than all rows.
        self::assertSame(0, $byName['rows']->edge(1.0));
        self::assertSame(['list' => [20, 40, 80, 160]], $byName['leaf']->widened(1));
        self::assertEquals(['list' => [0.005, 0.01, 0.02, 0.04]], $byName['rate']->widened(-1));
    }

    public function testWhatASettingDidIsItsShareOfTheSpread(): void
    {
        $settings = $figures = [];
        foreach ([1, 2, 3] as $a) {
            foreach ([10, 20] as $b) {
                $settings[] = ['a' => $a, 'b' => $b];
                $figures[] = 0.7 + 0.01 * $a;
            }
        }
        $told = Effects::of('a', $settings, $figures);
        self::assertEqualsWithDelta(1.0, $told['share'], 1e-12);
        self::assertEqualsWithDelta(0.0, Effects::of('b', $settings, $figures)['share'], 1e-12);
        self::assertSame(['1', '2', '3'], array_column($told['parts'], 'label'));
        self::assertEqualsWithDelta([0.71, 0.72, 0.73], array_column($told['parts'], 'median'), 1e-12);
        $map = Effects::map('a', 'b', $settings, $figures, true);
        self::assertSame([['1', '2', '3'], ['10', '20']], [$map['x'], $map['y']]);
        self::assertEqualsWithDelta(0.73, $map['cells'][1][2], 1e-12);
        // Many values are shown in ranges that hold every try once.
        $many = Effects::of(
            'c',
            array_map(static fn (int $i): array => ['c' => $i / 7], range(1, 50)),
            array_map(floatval(...), range(1, 50)),
        );
        self::assertCount(6, $many['parts']);
        self::assertSame(50, array_sum(array_column($many['parts'], 'tries')));
    }

    /** Of pure noise the best looks good; what is left of it when luck is taken out is nothing. */
    public function testLuckOfTheBestOfNoiseIsTakenOut(): void
    {
        $auc = Figures::named(Task::TWO, 'AUC');
        $outcome = array_map(static fn (int $i): float => (float) ($i % 2), range(0, 199));
        $searching = $corrected = [];
        $fooled = 0;
        for ($study = 0; $study < 16; ++$study) {
            $random = Random::stream($study, 'noise of a search');
            $tries = [];
            for ($t = 0; $t < 25; ++$t) {
                $answers = new Answers(array_map(static fn (): float => $random->getInt(1, 999_999) / 1_000_000, $outcome));
                $tries[] = [$auc->value($outcome, $answers) ?? 0.5, $answers];
            }
            usort($tries, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
            $winner = Winner::of($auc, $outcome, array_column($tries, 1), 1);
            $interval = $winner->corrected($auc, $tries[0][0]);
            $searching[] = $tries[0][0];
            $corrected[] = $interval->value;
            $fooled += $interval->low > 0.5 || $interval->high < 0.5 ? 1 : 0;
        }
        self::assertGreaterThan(0.56, array_sum($searching) / 16);
        self::assertEqualsWithDelta(0.5, array_sum($corrected) / 16, 0.015);
        self::assertLessThanOrEqual(1, $fooled);
        self::assertSame(200, array_sum($winner->chosen));
        self::assertEquals($winner, Winner::of($auc, $outcome, array_column($tries, 1), 1));
        // One try alone was not chosen among others.
        self::assertEqualsWithDelta(0.0, Winner::of($auc, $outcome, [$tries[0][1]], 1)->luck, 0.005);
    }
}
