<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class LogisticReferenceTest extends TestCase
{
    private const INPUTS = ['tenure', 'calls', 'spend', 'plan', 'channel'];

    /** @return iterable<string, array{string}> */
    public static function cases(): iterable
    {
        foreach (['logistic-regression', 'logistic-rare', 'logistic-weighted'] as $case) {
            yield $case => [$case];
        }
    }

    #[DataProvider('cases')]
    public function testCoefficientsFitAndPredictionsHold(string $case): void
    {
        $table = Files::table(Files::folder($case).'/data.csv');
        $weights = $table->has('weight') ? $table->number('weight')->values : null;
        $fitted = (new LogisticRegression())->fit(new Task(
            $table,
            self::INPUTS,
            $table->number('left')->values,
            range(0, $table->rows - 1),
            $weights,
        ));
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($fitted->toArray(), \JSON_THROW_ON_ERROR), true);
        $model = LogisticModel::fromArray($stored);
        $expected = Files::expected($case);
        /** @var list<array<string, float|string>> $coefficients */
        $coefficients = $expected['coefficients'];
        foreach ($coefficients as $i => $c) {
            $got = $model->coefficients[$i]->toArray();
            foreach ($c as $name => $value) {
                \is_string($value) ? self::assertSame($value, $got[$name]) : self::assertEqualsWithDelta(
                    $value,
                    $got[$name],
                    1e-6 * abs($value) + 1e-12,
                    $c['name'].' '.$name,
                );
            }
        }
        foreach ($model->figures->toArray() as $name => $value) {
            $wanted = $expected[$name] ?? null;
            if (\is_float($wanted) || \is_int($wanted)) {
                self::assertEqualsWithDelta($wanted, $value, 1e-8 * abs($wanted) + 1e-12, $name);
            }
        }
        $new = Files::table(Files::folder($case).'/new.csv');
        $eta = $model->linearPredictor($new);
        /** @var list<array{row: int, linear_predictor: float, se_linear_predictor: float, probability: float}> $predictions */
        $predictions = $expected['predictions_new'];
        foreach ($predictions as $p) {
            $x = array_map(static fn (array $column) => $column[0], $model->matrix($new, [$p['row'] - 1])->block(0));
            self::assertEqualsWithDelta($p['linear_predictor'], $eta[$p['row'] - 1], 1e-6 * abs($p['linear_predictor']));
            self::assertEqualsWithDelta($p['se_linear_predictor'], $model->standardError($x), 1e-6);
            self::assertEqualsWithDelta($p['probability'], $model->predict($new)[$p['row'] - 1], 1e-6 * $p['probability']);
        }
        /** @var list<array{term: string, df: int, log_likelihood_without: float}> $tests */
        $tests = $expected['drop_one_term'];
        foreach ($tests as $test) {
            $rows = $model->coding->complete($table, range(0, $table->rows - 1));
            $without = (new LogisticRegression())->fit(new Task(
                $table,
                array_values(array_diff(self::INPUTS, [$test['term']])),
                $table->number('left')->values,
                $rows,
                $weights,
            ));
            self::assertEqualsWithDelta(
                $test['log_likelihood_without'],
                $without->figures->logLikelihood,
                1e-8 * abs($test['log_likelihood_without']),
            );
            self::assertSame($test['df'], $model->figures->parameters - $without->figures->parameters);
        }
    }

    public function testSeparationIsSaidAndLeavesFiniteCoefficients(): void
    {
        foreach (['data.csv' => [['x1', 'x2'], 'completely'], 'quasi.csv' => [['group'], 'group=c']] as $file => [$inputs, $says]) {
            $table = Files::table(Files::folder('logistic-separable').'/'.$file);
            $model = (new LogisticRegression())->fit(new Task($table, $inputs, $table->number('y')->values, range(0, $table->rows - 1)));
            self::assertNotNull($model->separated);
            self::assertStringContainsString($says, implode(' ', $model->notes()));
            foreach ($model->coefficients as $c) {
                self::assertFinite($c->estimate);
                self::assertNull($c->error, 'an error that does not exist is not reported');
            }
        }
    }
}
