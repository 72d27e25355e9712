<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Players;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Shapley;
use Dokimos\Core\Learn\Scale;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Trees that add up are shared out exactly, in columns as they came. */
final class ExactAccountTest extends TestCase
{
    private static function table(int $rows, int $seed, bool $strange = false): Table
    {
        $random = new Randomizer(new Mt19937($seed));
        $x = $z = $day = $g = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $random->getInt(-300, 300) / 100;
            $z[] = 0 === $random->getInt(0, 3) ? \NAN : $random->getInt(0, 100) / 10;
            $day[] = 0 === $random->getInt(0, 5) ? DateColumn::MISSING : 1_700_000_000 + $random->getInt(0, 400) * DateColumn::DAY;
            $color = ['red', 'green', 'blue', 'gray', 'rare'.$random->getInt(0, 40)][$random->getInt(0, 4)];
            $g[] = 0 === $random->getInt(0, 9) ? null : ($strange && 0 === $random->getInt(0, 3) ? 'never seen' : $color);
        }

        return Table::of([
            'x' => new NumberColumn($x),
            'z' => new NumberColumn($z),
            'day' => new DateColumn($day),
            'color' => CodedColumn::fromCells($g),
            'unused' => new NumberColumn(array_fill(0, $rows, 1.0)),
            'more' => new NumberColumn(array_fill(0, $rows, 1.0)),
        ], $rows);
    }

    /**
     * @param array<string, mixed>       $settings
     * @param list<array<string, mixed>> $steps
     */
    private static function model(string $learner, string $kind, array $settings, array $steps): ScoringModel
    {
        $table = self::table(400, 3);
        $y = [];
        for ($i = 0; $i < $table->rows; ++$i) {
            $pull = $table->number('x')->values[$i] * ('blue' === $table->column('color')->text($i) ? 2 : 1)
                + ($table->column('z')->isMissing($i) ? 1.5 : 0.0) + ($table->column('day')->isMissing($i) ? 0.8 : 0.0);
            $y[] = match ($kind) {
                'two classes' => (float) ($pull > 0.5),
                'several classes' => $pull < -0.5 ? 0.0 : ($pull < 1.5 ? 1.0 : 2.0),
                'a count' => max(0.0, round($pull + 2)),
                default => $pull,
            };
        }
        $classes = match ($kind) {
            'two classes' => ['no', 'yes'],
            'several classes' => ['a', 'b', 'c'],
            default => null,
        };

        return (new Trying(
            $table,
            $table->names(),
            $y,
            Preparation::fromArray($steps),
            Learners::make($learner, $settings),
            classes: $classes,
        ))->whole('y', 'two classes' === $kind ? 'yes' : '');
    }

    /** @return iterable<string, array{string, string, array<string, mixed>, list<array<string, mixed>>, Scale}> */
    public static function models(): iterable
    {
        $fill = [['step' => 'fill_missing', 'columns' => ['z'], 'mark' => true], ['step' => 'scale', 'columns' => ['x']]];
        $few = ['trees' => 12, 'patience' => 0];
        yield 'a tree' => ['tree', 'two classes', [], [], Scale::AsItIs];
        yield 'a tree of a number' => ['tree', 'a number', [], $fill, Scale::AsItIs];
        yield 'a tree of several classes' => ['tree', 'several classes', [], [], Scale::AsItIs];
        yield 'a forest' => ['forest', 'two classes', ['trees' => 8], $fill, Scale::AsItIs];
        yield 'a forest of a number' => ['forest', 'a number', ['trees' => 8], [], Scale::AsItIs];
        yield 'a forest of several classes' => ['forest', 'several classes', ['trees' => 8], [], Scale::AsItIs];
        yield 'naive Bayes' => ['naive-bayes', 'two classes', [], [], Scale::LogOdds];
        yield 'naive Bayes by densities' => ['naive-bayes', 'two classes', ['numbers' => 'as they lie'], $fill, Scale::LogOdds];
        yield 'a network' => ['bayes-network', 'two classes', [], [], Scale::LogOdds];
        yield 'curves and pairs' => ['additive', 'two classes', ['bags' => 2, 'leaf' => 5], [], Scale::LogOdds];
        yield 'curves of a number' => ['additive', 'number', ['bags' => 2, 'leaf' => 5], $fill, Scale::AsItIs];
        yield 'boosting' => ['boosting', 'two classes', $few, $fill, Scale::LogOdds];
        yield 'boosting of a number' => ['boosting', 'a number', $few, [], Scale::AsItIs];
        yield 'boosting of a count' => ['boosting', 'a count', $few + ['loss' => 'Poisson'], [], Scale::Logarithm];
    }

    /**
     * @param array<string, mixed>       $settings
     * @param list<array<string, mixed>> $steps
     */
    #[DataProvider('models')]
    public function testWhatIsSharedOutIsWhatBruteForceSays(
        string $learner,
        string $kind,
        array $settings,
        array $steps,
        Scale $scale,
    ): void {
        $model = self::model($learner, $kind, $settings, $steps);
        $class = 'several classes' === $kind ? 1 : null;
        $background = self::table(30, 8);
        $records = self::table(60, 9, true);
        $exact = ExactAccount::of($model, $background, $class);
        self::assertNotNull($exact);
        $own = static function (Table $table) use ($model, $class, $scale): array {
            $answers = $model->answers($table);
            $values = [];
            for ($row = 0; $row < $table->rows; ++$row) {
                $v = null === $class ? $answers->first($row) : $answers->ofClass($row, $class);
                $values[] = match ($scale) {
                    Scale::AsItIs => $v,
                    Scale::LogOdds => log($v / (1 - $v)),
                    Scale::Logarithm => log($v),
                };
            }

            return $values;
        };
        $all = $own($records);
        foreach (range(0, $records->rows - 1) as $row) {
            $record = $records->take([$row]);
            $told = $exact->told($model, $record);
            self::assertNotNull($told);
            self::assertEqualsWithDelta($scale->answer($all[$row]), $told->answer, 1e-9, 'the open trees answer as the model does');
            self::assertEqualsWithDelta($told->answer - $told->base, array_sum($told->values), 1e-9, 'it adds up');
            self::assertSame(0.0, $told->values[4], 'what no tree asks about has exactly nothing');
            if ($row >= 4) {
                continue;
            }
            $brute = Shapley::exact(4, static function (int $set) use ($background, $record, $own): float {
                foreach (['x', 'z', 'day', 'color'] as $j => $name) {
                    if (($set >> $j & 1) === 1) {
                        $background = $background->with($name, $record->column($name)->take(array_fill(0, $background->rows, 0)));
                    }
                }

                return array_sum($own($background)) / $background->rows;
            });
            self::assertEqualsWithDelta([...$brute, 0.0, 0.0], [] === $told->own ? $told->values : $told->own, 1e-9);
        }
    }

    public function testWhatIsMadeOfTwoColumnsIsOnePlayer(): void
    {
        $steps = [['step' => 'interact', 'column' => 'x', 'other' => 'z']];
        $model = self::model('tree', 'two classes', [], $steps);
        $background = self::table(30, 8);
        self::assertContains(['x', 'z'], Players::of($model, $background->names()));
        $exact = ExactAccount::of($model, $background, null);
        self::assertNotNull($exact);
        foreach ([1, 2, 3, 5, 8] as $row) {
            $record = self::table(60, 9)->take([$row]);
            $told = $exact->told($model, $record);
            self::assertNotNull($told);
            self::assertSame([['x', 'z'], ['day'], ['color'], ['unused'], ['more']], $told->players);
            $brute = Shapley::exact(3, static function (int $set) use ($background, $record, $model): float {
                foreach ([['x', 'z'], ['day'], ['color']] as $j => $names) {
                    foreach (($set >> $j & 1) === 1 ? $names : [] as $name) {
                        $background = $background->with($name, $record->column($name)->take(array_fill(0, $background->rows, 0)));
                    }
                }

                return array_sum($model->answers($background)->values) / $background->rows;
            });
            self::assertEqualsWithDelta([...$brute, 0.0, 0.0], $told->values, 1e-9);
        }
    }

    public function testWhereItIsNoSumOfTreesOfSingleColumnsItSaysSo(): void
    {
        $background = self::table(20, 8);
        $none = static fn (ScoringModel $model, ?int $class = null): ?ExactAccount => ExactAccount::of($model, $background, $class);
        $filled = [['step' => 'fill_missing', 'columns' => ['z', 'day', 'color']]];
        self::assertNull($none(self::model('logistic', 'two classes', [], $filled)));
        self::assertNull($none(self::model('boosting', 'several classes', ['trees' => 5, 'patience' => 0], []), 0), 'no sum on any scale');
        $four = ['step' => 'formula', 'name' => 'all', 'formula' => 'x + unused * more + z'];
        self::assertNull(
            $none(self::model('tree', 'two classes', [], [$four, ['step' => 'set_aside', 'columns' => ['x']]])),
            'four are no one player',
        );
        $tree = self::model('tree', 'two classes', [], []);
        self::assertNotNull($none($tree));
        $known = [];
        for ($row = 0; $row < 400; ++$row) {
            $known[] = (float) (0 === $row % 3);
        }
        $calibrated = $tree->with(Calibrated::fit('sigmoid', $known, $tree->answers(self::table(400, 3))));
        self::assertNull($none($calibrated), 'calibrated chances are no sum');
        self::assertNotNull($none($calibrated->uncalibrated()));
    }

    public function testTheRateBetweenTwoSumsIsTheSlopeWhereTheyAreOne(): void
    {
        foreach ([Scale::AsItIs, Scale::LogOdds, Scale::Logarithm] as $scale) {
            self::assertEqualsWithDelta($scale->rate(0.4, 0.4001), $scale->rate(0.4, 0.4), 1e-4);
            self::assertEqualsWithDelta($scale->answer(1.5) - $scale->answer(-0.5), 2 * $scale->rate(-0.5, 1.5), 1e-12);
        }
    }
}
