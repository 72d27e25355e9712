<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Calibrate;

use Dokimos\Core\Calibrate\Isotonic;
use Dokimos\Core\Calibrate\Prior;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Figure\Brier;
use Dokimos\Core\Figure\LogLoss;
use Dokimos\Core\Measure\Calibration;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\TestCase;

/** Sigmoid, steps and prior correction hold the reference figures. */
final class ReferenceTest extends TestCase
{
    private static function close(mixed $expected, mixed $got, float $relative, string $what): void
    {
        if (\is_array($expected)) {
            self::assertIsArray($got, $what);
            self::assertCount(\count($expected), $got, $what);
            foreach ($expected as $key => $value) {
                self::assertArrayHasKey($key, $got, $what);
                self::close($value, $got[$key], $relative, "$what/$key");
            }
        } elseif (\is_int($expected) || \is_string($expected)) {
            self::assertEquals($expected, $got, $what);
        } else {
            self::assertTrue(\is_float($got) || \is_int($got), $what);
            self::assertIsFloat($expected, $what);
            self::assertEqualsWithDelta($expected, $got, $relative * abs($expected) + 1e-15, $what);
        }
    }

    private static function file(string $name): Table
    {
        return Files::table(Files::folder('calibration')."/$name.csv");
    }

    /**
     * @param list<float> $event
     * @param list<float> $chance
     *
     * @return array<string, mixed>
     */
    private static function judged(array $event, array $chance): array
    {
        $told = Calibration::of($event, $chance);
        $all = $told->toArray();

        return [
            'mean_chance' => array_sum($chance) / \count($chance),
            'share' => array_sum($event) / \count($event),
            'log_loss' => (new LogLoss())->value($event, new Answers($chance)),
            'brier' => (new Brier())->value($event, new Answers($chance)),
            'edges' => $told->edges,
            'bins' => array_map(
                static fn (array $b): array => ['n' => $b['n'], 'mean_chance' => $b['mean_score'], 'share' => $b['rate']],
                $told->bins,
            ),
            'expected_calibration_error' => $all['expected_calibration_error'],
            'maximum_calibration_error' => $all['max_calibration_error'],
        ];
    }

    public function testSigmoid(): void
    {
        /** @var array{sigmoid: array<string, array<string, mixed>>, before_new: mixed} $expected */
        $expected = Files::expected('calibration');
        [$data, $new] = [self::file('data'), self::file('new')];
        [$y, $chance, $weight] = array_map(static fn (string $n): array => $data->number($n)->values, ['y', 'chance', 'weight']);
        [$newY, $newChance] = [$new->number('y')->values, $new->number('chance')->values];
        $checked = 0;
        foreach ([
            'maximum_likelihood' => [null, false],
            'maximum_likelihood_weighted' => [$weight, false],
            'smoothed_targets' => [null, true],
            'smoothed_targets_weighted' => [$weight, true],
        ] as $key => [$w, $smooth]) {
            $fit = Sigmoid::fit($y, $chance, $w, $smooth);
            $said = array_map($fit->of(...), $newChance);
            $got = ['log_likelihood' => $fit->logLikelihood, 'predictions_new' => $said, 'judged_new' => self::judged($newY, $said)];
            [$yes, $no] = Sigmoid::targets($y, $w);
            foreach ($expected['sigmoid'][$key] as $name => $value) {
                match ($name) {
                    'a', 'b', 'se_a', 'se_b' => self::close(
                        $value,
                        ['a' => $fit->a, 'b' => $fit->b, 'se_a' => $fit->errorA, 'se_b' => $fit->errorB][$name],
                        1e-7,
                        "$key/$name",
                    ),
                    'target_event' => self::close($value, $yes[0], 1e-12, $name),
                    'target_other' => self::close($value, $no[0], 1e-12, $name),
                    default => self::close($value, $got[$name] ?? null, 1e-9, "$key/$name"),
                };
                ++$checked;
            }
        }
        self::assertGreaterThan(20, $checked);
        self::close($expected['before_new'], self::judged($newY, $newChance), 1e-9, 'before');
        self::close(
            $expected['log_odds_new_first_5'] ?? [],
            array_map(Sigmoid::logOdds(...), \array_slice($newChance, 0, 5)),
            1e-9,
            'log-odds',
        );
    }

    public function testSteps(): void
    {
        /** @var array{isotonic: array<string, array<string, mixed>>} $expected */
        $expected = Files::expected('calibration');
        [$data, $new] = [self::file('data'), self::file('new')];
        [$y, $chance, $weight] = array_map(static fn (string $n): array => $data->number($n)->values, ['y', 'chance', 'weight']);
        [$newY, $newChance] = [$new->number('y')->values, $new->number('chance')->values];
        foreach (['unweighted' => null, 'weighted' => $weight] as $key => $w) {
            $fit = Isotonic::fit($y, $chance, $w);
            [$step, $linear] = [array_map($fit->step(...), $newChance), array_map($fit->of(...), $newChance)];
            self::close($expected['isotonic'][$key], [
                'blocks' => $fit->blocks,
                'step_new' => $step,
                'linear_new' => $linear,
                'judged_new_step' => self::judged($newY, $step),
                'judged_new_linear' => self::judged($newY, $linear),
            ], 1e-9, $key);
        }
    }

    public function testPriorCorrection(): void
    {
        /** @var array{prior_correction: array{training_share: float, natural_share: float, log_odds_shift: float, corrected_first_10: list<float>, before: mixed, after: mixed, classes: array{names: list<string>, training_shares: list<float>, natural_shares: list<float>, corrected: list<list<float>>}}} $expected */
        $expected = Files::expected('calibration');
        $prior = $expected['prior_correction'];
        $natural = self::file('natural');
        [$y, $chance] = [$natural->number('y')->values, $natural->number('chance')->values];
        $moved = array_map(static fn (float $p): float => Prior::corrected($p, $prior['training_share'], $prior['natural_share']), $chance);
        self::close($prior['log_odds_shift'], Prior::shift($prior['training_share'], $prior['natural_share']), 1e-12, 'shift');
        self::close($prior['corrected_first_10'], \array_slice($moved, 0, 10), 1e-9, 'corrected');
        self::close($prior['before'], self::judged($y, $chance), 1e-9, 'before');
        self::close($prior['after'], self::judged($y, $moved), 1e-9, 'after');
        $classes = self::file('classes');
        foreach ($prior['classes']['corrected'] as $row => $shares) {
            $own = array_map(static fn (string $name): float => $classes->number('p_'.$name)->values[$row], $prior['classes']['names']);
            self::close(
                $shares,
                Prior::ofClasses($own, $prior['classes']['training_shares'], $prior['classes']['natural_shares']),
                1e-9,
                "row $row",
            );
        }
    }
}
