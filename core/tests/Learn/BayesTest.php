<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Bayes\BayesNetwork;
use Dokimos\Core\Learn\Bayes\NaiveBayes;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Reported;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Naive Bayes and the Bayes network: figures of the reference, and what their definitions promise. */
final class BayesTest extends TestCase
{
    /** @return iterable<string, array{string, string, class-string<NaiveBayes|BayesNetwork>, array<string, mixed>}> */
    public static function references(): iterable
    {
        yield 'naive Bayes' => ['naive-bayes', 'kind', NaiveBayes::class, ['calibrate' => 'no', 'numbers' => 'as normal']];
        yield 'network' => ['tan', 'class', BayesNetwork::class, ['calibrate' => 'no', 'root' => 'first column']];
    }

    /**
     * @param class-string<NaiveBayes|BayesNetwork> $learner
     * @param array<string, mixed>                  $settings
     */
    #[DataProvider('references')]
    public function testFiguresAreThoseOfTheReference(string $case, string $target, string $learner, array $settings): void
    {
        $folder = Files::folder($case);
        $table = Files::table($folder.'/data.csv');
        $expected = Files::expected($case);
        $y = array_map(
            static fn (int $row): float => (float) array_search($table->column($target)->text($row), $expected['classes'], true),
            range(0, $table->rows - 1),
        );
        $task = new Task(
            $table->without([$target]),
            array_values(array_diff($table->names(), [$target])),
            $y,
            range(0, $table->rows - 1),
            null,
            $expected['classes'],
        );
        $model = (new $learner($settings))->fit($task);
        Same::as($expected, $model->report($task, new Reported(new: Files::table($folder.'/new.csv'))), 1e-9);
    }

    /** @return array{list<float>, list<?string>, list<?string>, list<float>} */
    private static function drawn(int $rows, int $seed): array
    {
        $random = new Randomizer(new Mt19937($seed));
        $x = $g = $h = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $y[] = $e = (float) ($random->getInt(0, 9) < 3);
            $x[] = 0 === $random->getInt(0, 11) ? \NAN : $random->getInt(-300, 300) / 100 + $e;
            $g[] = $own = [null, 'a', 'b', 'c'][$random->getInt(0, 3) < 1 + $e ? 2 : $random->getInt(0, 3)];
            // Hangs on g, and turns with the class.
            $h[] = $random->getInt(0, 9) < 8 ? ($e > 0.5 ? $own : ('a' === $own ? 'b' : 'a')) : 'c';
        }

        return [$x, $g, $h, $y];
    }

    public function testTheOrderOfColumnsChangesNothing(): void
    {
        [$x, $g, $h, $y] = self::drawn(500, 1);
        $table = Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g), 'h' => CodedColumn::fromCells($h)]);
        foreach ([new NaiveBayes(), new BayesNetwork()] as $learner) {
            $one = $learner->fit(new Task($table, ['x', 'g', 'h'], $y, range(0, 499)));
            $other = $learner->fit(new Task($table, ['h', 'x', 'g'], $y, range(0, 499)));
            foreach ($one->predict($table) as $row => $p) {
                self::assertEqualsWithDelta($p, $other->predict($table)[$row], 1e-12);
            }
        }
    }

    /** With no class at work the tables of the network are those of counting, and what is missing is skipped. */
    public function testANetworkOfOneColumnIsNaiveBayes(): void
    {
        [, $g, , $y] = self::drawn(400, 2);
        $known = array_map(static fn (?string $v): string => $v ?? 'a', $g);
        $table = Table::of(['g' => CodedColumn::fromCells($known)]);
        $task = new Task($table, ['g'], $y, range(0, 399));
        $one = (new NaiveBayes(['calibrate' => 'no']))->fit($task)->predict($table);
        $two = (new BayesNetwork(['calibrate' => 'no']))->fit($task)->predict($table);
        foreach ($one as $row => $p) {
            self::assertEqualsWithDelta($p, $two[$row], 1e-12);
        }
    }

    public function testWeightsAreRepetitions(): void
    {
        [$x, $g, $h, $y] = self::drawn(300, 3);
        $table = Table::of([
            'x' => new NumberColumn(array_map(static fn (float $v): float => is_nan($v) ? 0.0 : $v, $x)),
            'g' => CodedColumn::fromCells($g),
            'h' => CodedColumn::fromCells($h),
        ]);
        $weights = array_map(static fn (int $i): float => (float) (1 + $i % 3), range(0, 299));
        $rows = [];
        foreach ($weights as $row => $w) {
            array_push($rows, ...array_fill(0, (int) $w, $row));
        }
        $again = new Task(
            $table->take($rows),
            ['g', 'h'],
            array_map(static fn (int $r): float => $y[$r], $rows),
            range(0, \count($rows) - 1),
        );
        foreach ([NaiveBayes::class, BayesNetwork::class] as $learner) {
            $one = (new $learner(['calibrate' => 'no']))->fit(new Task($table, ['g', 'h'], $y, range(0, 299), $weights))->predict($table);
            $two = (new $learner(['calibrate' => 'no']))->fit($again)->predict($table);
            foreach ($one as $row => $p) {
                self::assertEqualsWithDelta($p, $two[$row], 1e-9);
            }
        }
    }

    /** A column that says the same twice makes naive Bayes too sure; inner folds bring it back, and say so. */
    public function testChancesThatAreTooSureAreBroughtBack(): void
    {
        [$x, $g, , $y] = self::drawn(1500, 4);
        $columns = ['g' => CodedColumn::fromCells($g)];
        foreach (range(1, 6) as $k) {
            $columns['x'.$k] = new NumberColumn($x);
        }
        $table = Table::of($columns);
        $loss = static function (array $chances) use ($y): float {
            $sum = 0.0;
            foreach (range(1000, 1499) as $row) {
                $sum -= log($y[$row] > 0.5 ? $chances[$row] : 1 - $chances[$row]);
            }

            return $sum / 500;
        };
        $task = new Task($table, $table->names(), $y, range(0, 999));
        $asItComes = (new NaiveBayes(['calibrate' => 'no']))->fit($task);
        $back = (new NaiveBayes())->fit($task);
        self::assertLessThan($loss($asItComes->predict($table)) - 0.02, $loss($back->predict($table)));
        self::assertStringContainsString('too sure and are brought back by inner folds', implode(' ', $back->notes()));
        // Order is kept: only how sure it is has changed.
        $chances = $asItComes->predict($table);
        $held = $back->predict($table);
        asort($chances);
        $last = 0.0;
        foreach (array_keys($chances) as $row) {
            self::assertGreaterThanOrEqual($last - 1e-12, $held[$row]);
            $last = $held[$row];
        }
    }

    public function testWhatAValueSaysAddsUpToTheAnswer(): void
    {
        [$x, $g, $h, $y] = self::drawn(600, 5);
        $table = Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g), 'h' => CodedColumn::fromCells($h)]);
        $task = new Task($table, ['x', 'g', 'h'], $y, range(0, 599));
        foreach ([new NaiveBayes(), new NaiveBayes(['numbers' => 'as they lie']), new BayesNetwork()] as $learner) {
            $model = $learner->fit($task);
            $sum = $model->terms(null);
            self::assertNotNull($sum);
            $odds = array_fill(0, 600, $sum->start);
            foreach (array_keys($sum->columns) as $term) {
                foreach (($sum->values)($table, $term) as $row => $v) {
                    $odds[$row] += $v;
                }
            }
            foreach ($model->predict($table) as $row => $p) {
                self::assertEqualsWithDelta($p, $sum->scale->answer($odds[$row]), 1e-9);
            }
            $shares = [];
            foreach ($model->evidence() as $e) {
                $shares[$e->column] = ($shares[$e->column] ?? 0.0) + $e->share;
                self::assertEqualsWithDelta(-$e->weights[0], $e->weights[1], 1e-9, 'what speaks for one class speaks against the other');
            }
            foreach ($shares as $column => $share) {
                self::assertEqualsWithDelta(1.0, $share, 1e-9, (string) $column);
            }
        }
    }

    public function testTheNetworkFindsWhatHangsOnWhat(): void
    {
        [$x, $g, $h, $y] = self::drawn(2000, 6);
        $table = Table::of(['x' => new NumberColumn($x), 'g' => CodedColumn::fromCells($g), 'h' => CodedColumn::fromCells($h)]);
        $task = new Task($table, ['x', 'g', 'h'], $y, range(0, 1499));
        $network = (new BayesNetwork())->fit($task);
        $links = [];
        foreach ($network->nodes() as $node) {
            $links[$node->column] = $node->parent;
            foreach ($node->shares as $given) {
                foreach ($given as $own) {
                    self::assertEqualsWithDelta(1.0, array_sum($own), 1e-9);
                }
            }
        }
        self::assertTrue('g' === $links['h'] || 'h' === $links['g']);
        $brier = static function (array $p) use ($y): float {
            $sum = 0.0;
            foreach (range(1500, 1999) as $row) {
                $sum += ($p[$row] - $y[$row]) ** 2;
            }

            return $sum;
        };
        // What only shows in both together is lost on columns that speak for themselves.
        self::assertLessThan(0.9 * $brier((new NaiveBayes())->fit($task)->predict($table)), $brier($network->predict($table)));
    }

    /** @return iterable<string, array{class-string<NaiveBayes|BayesNetwork>, array<string, mixed>, ?list<string>, string}> */
    public static function refused(): iterable
    {
        yield 'a number' => [NaiveBayes::class, [], null, 'Naive Bayes tells classes apart; this outcome is a number.'];
        yield 'a number for a network' => [BayesNetwork::class, [], null, 'Bayes network tells classes apart; this outcome is a number.'];
        yield 'a root that is none' => [
            BayesNetwork::class,
            ['root' => 'z'],
            ['no', 'yes'],
            '"z" cannot be the root: it is no column of the network.',
        ];
    }

    /**
     * @param class-string<NaiveBayes|BayesNetwork> $learner
     * @param array<string, mixed>                  $settings
     * @param ?list<string>                         $classes
     */
    #[DataProvider('refused')]
    public function testWhatCannotBeFittedIsSaid(string $learner, array $settings, ?array $classes, string $says): void
    {
        [, $g, , $y] = self::drawn(100, 7);
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage($says);
        (new $learner($settings))->fit(new Task(Table::of(['g' => CodedColumn::fromCells($g)]), ['g'], $y, range(0, 99), null, $classes));
    }
}
