<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Logistic\MultinomialRegression;
use Dokimos\Core\Learn\Selection\BestSubsets;
use Dokimos\Core\Learn\Selection\Candidate;
use Dokimos\Core\Learn\Selection\Selection;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use PHPUnit\Framework\TestCase;

final class SelectionReferenceTest extends TestCase
{
    private const CANDIDATES = ['p1', 'p2', 'p3', 'p4', 'p5', 'p6', 'kind', 'side'];

    /** @return array{Table, list<float>, list<int>} */
    private static function data(): array
    {
        $table = Files::table(Files::folder('selection-logistic').'/data.csv');
        $rows = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            if ([] === array_filter([...self::CANDIDATES, 'y'], static fn (string $c) => $table->column($c)->isMissing($row))) {
                $rows[] = $row;
            }
        }

        return [$table, $table->number('y')->values, $rows];
    }

    private static function selection(): Selection
    {
        [$table, $y, $rows] = self::data();

        return new Selection(static function (array $columns) use ($table, $y, $rows): Candidate {
            /** @var list<string> $columns */
            $figures = (new LogisticRegression())->fit(new Task($table, $columns, $y, $rows))->figures;

            return new Candidate($figures->logLikelihood, $figures->parameters, $figures->rowsUsed);
        }, self::CANDIDATES);
    }

    public function testStepsByPValue(): void
    {
        $selection = self::selection();
        /** @var list<array{method: string, enter: ?float, remove: ?float, final: list<string>, trace: list<mixed>}> $all */
        $all = Files::expected('selection-logistic')['by_p'];
        foreach ($all as $want) {
            $got = $selection->byP($want['method'], $want['enter'] ?? 1.0, $want['remove'] ?? 1.0);
            self::assertSame($want['final'], $got['final'], $want['method']);
            Same::as($want['trace'], $got['trace'], 1e-7, ['#/p$#' => 1e-6], $want['method']);
        }
    }

    public function testStepsByCriterion(): void
    {
        $selection = self::selection();
        /** @var list<array{method: string, final: list<string>, aic: float, trace: list<mixed>}> $all */
        $all = Files::expected('selection-logistic')['by_aic'];
        foreach ($all as $want) {
            $got = $selection->byCriterion(
                'both' === $want['method'] ? Selection::STEPWISE : $want['method'],
                'aic',
                $selection->criterion(2.0),
            );
            unset($want['method']);
            Same::as($want, $got + ['aic' => $got['value']], 1e-7);
        }
    }

    public function testTheLearnerChoosesAndKeepsTheTrace(): void
    {
        [$table, $y, $rows] = self::data();
        $model = (new LogisticRegression([
            'selection' => 'stepwise',
            'by' => 'p-value',
        ]))->fit(new Task($table, self::CANDIDATES, $y, $rows));
        self::assertSame(['p1', 'p3', 'p4', 'p6', 'kind'], $model->columns());
        self::assertCount(8, $model->trace);
        self::assertStringContainsString('Chosen in 8 steps', implode(' ', $model->notes()));
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        self::assertSame($model->trace, LogisticModel::fromArray($stored)->trace);
        self::assertCount(
            1,
            (new LogisticRegression([
                'selection' => 'forward',
                'by' => 'p-value',
                'steps' => 1,
            ]))->fit(new Task($table, self::CANDIDATES, $y, $rows))->columns(),
        );
    }

    public function testBestSubsets(): void
    {
        $table = Files::table(Files::folder('selection-subsets').'/data.csv');
        $names = ['q1', 'q2', 'q3', 'q4', 'q5', 'q6', 'q7', 'q8'];
        $rows = array_values(array_filter(
            range(0, $table->rows - 1),
            static fn (int $r) => [] === array_filter([...$names, 'y'], static fn (string $c) => $table->column($c)->isMissing($r)),
        ));
        $of = static fn (string $name): array => array_map(static fn (int $r): float => $table->number($name)->values[$r], $rows);
        $expected = Files::expected('selection-subsets');
        unset($expected['rows_used']);
        // Size 0 explains nothing: what stands there is the rounding of another way to say 0.
        Same::as($expected, BestSubsets::of(array_map($of, $names), $names, $of('y')), 1e-9, ['#/cp$#' => 1e-8]);
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage('again said nothing');
        BestSubsets::of([$of('q1'), $of('q2'), $of('q1')], ['q1', 'q2', 'again'], $of('y'));
    }

    public function testPenaltiesOfTheReference(): void
    {
        $table = Files::table(Files::folder('logistic-penalised').'/data.csv');
        /** @var list<array{penalty: string, alpha: float, lambda: float, objective: float, nonzero: int, log_likelihood: float, intercept_original: float, coefficients_original: array<string, float>, probabilities_first_10_rows: list<float>}> $fits */
        $fits = Files::expected('logistic-penalised')['fits'];
        foreach ($fits as $want) {
            $model = (new LogisticRegression([
                'penalty' => ['l2' => 'ridge', 'l1' => 'lasso', 'elastic' => 'elastic net'][$want['penalty']],
                'price' => $want['lambda'],
                'mix' => $want['alpha'],
            ]))->fit(new Task(
                $table,
                array_keys($want['coefficients_original']),
                $table->number('y')->values,
                range(0, $table->rows - 1),
            ));
            $at = $want['penalty'].' '.$want['lambda'];
            self::assertEqualsWithDelta($want['objective'], $model->penalty?->objective, 1e-8 * $want['objective'], $at);
            $got = [];
            foreach ($model->coefficients as $c) {
                $got[$c->name] = $c->estimate;
                self::assertNull($c->error);
            }
            self::assertEqualsWithDelta($want['intercept_original'], $got['(intercept)'], 1e-5, $at);
            foreach ($want['coefficients_original'] as $name => $b) {
                self::assertEqualsWithDelta($b, $got[$name], 1e-5, $at.' '.$name);
                self::assertSame(0.0 === (float) $b, 0.0 === $got[$name], $at.' '.$name);
            }
            foreach ($want['probabilities_first_10_rows'] as $row => $p) {
                self::assertEqualsWithDelta($p, $model->predict($table, [$row])[0], 1e-5, $at);
            }
        }
    }

    public function testSeveralClassesAgainstTheFirst(): void
    {
        $table = Files::table(Files::folder('multinomial-logistic').'/data.csv');
        $expected = Files::expected('multinomial-logistic');
        /** @var list<string> $classes */
        $classes = $expected['classes'];
        $outcome = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $table->column('choice')->text($row);
            $outcome[] = null === $text ? \NAN : (float) array_search($text, $classes, true);
        }
        $model = (new MultinomialRegression())->fit(new Task(
            $table,
            ['age', 'km', 'area'],
            $outcome,
            range(0, $table->rows - 1),
            null,
            $classes,
        ));
        Same::as(
            $expected,
            $model->fitted() + ['predictions_new' => $model->predictions(Files::table(Files::folder('multinomial-logistic').'/new.csv'))],
            1e-6,
            ['#likelihood|deviance|aic#' => 1e-8],
        );
    }
}
