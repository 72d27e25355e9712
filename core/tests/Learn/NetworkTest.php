<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Learn;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Network\Inputs;
use Dokimos\Core\Learn\Network\Net;
use Dokimos\Core\Learn\Network\NeuralNetwork;
use Dokimos\Core\Learn\Network\Optimizer;
use Dokimos\Core\Learn\Network\Shape;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** The neural network: figures of the reference, its slope by differences, and what training promises. */
final class NetworkTest extends TestCase
{
    private const KINDS = ['two_classes' => Net::TWO, 'three_classes' => Net::MORE, 'number' => Net::NUMBER];

    /** @return iterable<string, array{string, string}> */
    public static function tasks(): iterable
    {
        foreach (array_keys(self::KINDS) as $task) {
            foreach (['tanh', 'relu'] as $bend) {
                yield "$task, $bend" => [$task, $bend];
            }
        }
    }

    /** @return array{Inputs, list<float>, list<float>} the data of the reference as inputs, outcome and weights */
    private static function data(string $task): array
    {
        $table = Files::table(Files::folder('neural-network').'/data.csv');
        $start = $index = $value = $y = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $start[] = \count($index);
            foreach (['x1', 'x2', 'x3', 'x4'] as $k => $name) {
                $index[] = $k;
                $value[] = (float) $table->column($name)->text($row);
            }
            $y[] = match ($task) {
                'two_classes' => (float) $table->column('two')->text($row),
                'three_classes' => (float) array_search($table->column('three')->text($row), ['a', 'b', 'c'], true),
                default => (float) $table->column('number')->text($row),
            };
        }
        $start[] = \count($index);

        return [new Inputs($table->rows, $start, $index, $value, []), $y, array_fill(0, $table->rows, 1.0)];
    }

    /**
     * @param array<string, mixed> $parameters by layer, as the reference writes them
     *
     * @return list<float>
     */
    private static function flat(array $parameters): array
    {
        $out = [];
        foreach ([1, 2, 3] as $k) {
            foreach ($parameters["weights_$k"] as $row) {
                array_push($out, ...array_map(floatval(...), (array) $row));
            }
            array_push($out, ...array_map(floatval(...), (array) $parameters["bias_$k"]));
        }

        return $out;
    }

    private static function same(mixed $wanted, mixed $got, string $what): void
    {
        if (\is_array($wanted)) {
            foreach ($wanted as $k => $w) {
                self::same($w, \is_array($got) ? $got[$k] : null, $what.'/'.$k);
            }

            return;
        }
        self::assertEqualsWithDelta($wanted, $got, 1e-9 * abs((float) $wanted) + 1e-11, $what);
    }

    /**
     * @param list<float> $p
     * @param list<float> $y
     * @param list<float> $w
     */
    private static function whole(Net $net, array $p, Inputs $inputs, array $y, array $w, float $l2): float
    {
        return $net->loss($p, $inputs, $y, $w) + $net->paid($p, $l2);
    }

    #[DataProvider('tasks')]
    public function testFiguresAreThoseOfTheReference(string $task, string $bend): void
    {
        $all = Files::expected('neural-network');
        $expected = $all['tasks'][$task][$bend];
        $weights = json_decode((string) file_get_contents(Files::folder('neural-network').'/weights.json'), true, 64, \JSON_THROW_ON_ERROR);
        [$inputs, $y, $w] = self::data($task);
        $shape = new Shape(4, [], [5, 3], 'three_classes' === $task ? 3 : 1);
        $net = new Net($shape, 'relu' === $bend, self::KINDS[$task]);
        $start = self::flat($weights[$task]);
        self::assertCount($shape->parameters, $start);
        $outputs = $net->outputs($start, $inputs);
        foreach ($expected['outputs'] as $row => $out) {
            /** @var list<float> $o */
            $o = array_column($outputs, $row);
            $e = array_map(exp(...), $o);
            self::same($out, match ($task) {
                'two_classes' => 1 / (1 + exp(-$o[0])),
                'three_classes' => array_map(static fn (float $v): float => $v / array_sum($e), $e),
                default => $o[0],
            }, "output $row");
        }
        $units = $net->units($start, $inputs, 0);
        self::same($expected['first_row_hidden_1'], \array_slice($units, 4, 5), 'first hidden layer');
        self::same($expected['first_row_hidden_2'], \array_slice($units, 9, 3), 'second hidden layer');
        $rows = range(0, $inputs->rows - 1);
        self::same($expected['loss'], self::whole($net, $start, $inputs, $y, $w, $all['l2']), 'loss');
        self::same(self::flat($expected['gradient']), $net->slope($start, $inputs, $rows, $y, $w, $all['l2'])[1], 'gradient');
        foreach (['adam' => Optimizer::ADAM, 'momentum' => Optimizer::MOMENTUM] as $key => $how) {
            $optimizer = new Optimizer($how, $shape->parameters);
            $p = $start;
            for ($step = 1; $step <= 10; ++$step) {
                $p = $optimizer->step($p, $net->slope($p, $inputs, $rows, $y, $w, $all['l2'])[1], $all[$key]['step']);
                foreach ($expected[$key] as $label => $after) {
                    if ("after_$step" === $label) {
                        self::same($after['loss'], self::whole($net, $p, $inputs, $y, $w, $all['l2']), "$key, loss after $step");
                        self::same(self::flat($after), $p, "$key, parameters after $step");
                    }
                }
            }
        }
    }

    /** @return iterable<string, array{string, bool, list<int>, list<array{int, int}>}> */
    public static function shapes(): iterable
    {
        foreach ([Net::TWO, Net::MORE, Net::NUMBER] as $task) {
            yield "$task, no hidden layer" => [$task, false, [], []];
            yield "$task, one of seven" => [$task, false, [7], []];
            yield "$task, tanh and embeddings" => [$task, false, [5, 6], [[4, 3], [3, 2]]];
            yield "$task, ReLU and embeddings" => [$task, true, [9, 4, 3], [[4, 2]]];
        }
    }

    /**
     * The slope of every parameter is what the loss changes by when it is moved a little.
     *
     * @param list<int>             $hidden
     * @param list<array{int, int}> $embeds
     */
    #[DataProvider('shapes')]
    public function testTheSlopeIsThatOfTheLoss(string $task, bool $isRelu, array $hidden, array $embeds): void
    {
        $random = new Randomizer(new Mt19937(7));
        $rows = 12;
        $start = $index = $value = $y = $w = [];
        $levels = array_fill(0, \count($embeds), []);
        for ($row = 0; $row < $rows; ++$row) {
            $start[] = \count($index);
            foreach (range(0, 5) as $k) {
                if ($random->getInt(0, 2) > 0) {
                    $index[] = $k;
                    $value[] = $random->getInt(-200, 200) / 100;
                }
            }
            foreach ($embeds as $m => [$values]) {
                $levels[$m][] = $random->getInt(0, $values - 1);
            }
            $y[] = Net::NUMBER === $task ? $random->getInt(-100, 100) / 50 : (float) $random->getInt(0, Net::TWO === $task ? 1 : 2);
            $w[] = $random->getInt(1, 5) / 2;
        }
        $start[] = \count($index);
        $inputs = new Inputs($rows, $start, $index, $value, $levels);
        $net = new Net(new Shape(6, $embeds, $hidden, Net::MORE === $task ? 3 : 1), $isRelu, $task);
        $p = $net->shape->drawn(3, $isRelu);
        foreach ($p as $i => $_) {
            $p[$i] += $random->getInt(-50, 50) / 200;
        }
        [$loss, $slope] = $net->slope($p, $inputs, range(0, $rows - 1), $y, $w, 0.1);
        self::assertEqualsWithDelta($net->loss($p, $inputs, $y, $w), $loss, 1e-12);
        $h = 1e-6;
        foreach ($slope as $i => $g) {
            [$up, $down] = [$p, $p];
            $up[$i] += $h;
            $down[$i] -= $h;
            self::assertEqualsWithDelta(
                (self::whole($net, array_values($up), $inputs, $y, $w, 0.1) - self::whole(
                    $net,
                    array_values($down),
                    $inputs,
                    $y,
                    $w,
                    0.1,
                )) / (2 * $h),
                $g,
                2e-7,
                "parameter $i",
            );
        }
    }

    public function testDropoutIsTheSameOnAverage(): void
    {
        [$inputs, $y, $w] = self::data('number');
        $net = new Net(new Shape(4, [], [40], 1), true, Net::NUMBER);
        $p = $net->shape->drawn(1, true);
        $random = new Randomizer(new Mt19937(2));
        $plain = $net->slope($p, $inputs, [3], $y, $w, 0.0)[1];
        $sum = array_fill(0, \count($p), 0.0);
        for ($k = 0; $k < 4000; ++$k) {
            foreach ($net->slope($p, $inputs, [3], $y, $w, 0.0, 0.5, $random)[1] as $i => $g) {
                $sum[$i] += $g / 4000;
            }
        }
        // The slope of the last bias is linear in what comes out, so it is right on average.
        $last = \count($p) - 1;
        self::assertEqualsWithDelta($plain[$last], $sum[$last], 0.05 + 0.05 * abs($plain[$last]));
    }

    private static function task(int $rows = 800): Task
    {
        $random = new Randomizer(new Mt19937(11));
        $x = $z = $g = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $random->getInt(-300, 300) / 100;
            $z[] = $random->getInt(-300, 300) / 100;
            $g[] = 'v'.$random->getInt(0, 49);
            $y[] = (float) (($x[$i] * $z[$i] > 0) === ($random->getInt(0, 9) > 0));
        }

        return new Task(
            Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z), 'g' => CodedColumn::fromCells($g)]),
            ['x', 'z', 'g'],
            $y,
            range(0, $rows - 1),
        );
    }

    public function testItLearnsWhatTwoColumnsDoTogetherAndKeepsTheBestEpoch(): void
    {
        $model = (new NeuralNetwork(['epochs' => 80]))->fit(self::task());
        $course = $model->course();
        $held = array_column($course, 'held');
        self::assertNotSame([], $held);
        self::assertMatchesRegularExpression('/The weights of epoch (\d+) were kept/', $model->notes()[0]);
        preg_match('/The weights of epoch (\d+) were kept/', $model->notes()[0], $said);
        self::assertEqualsWithDelta(min($held), $held[(int) ($said[1] ?? 0) - 1], 1e-6);
        self::assertLessThan(0.55, min($held), 'a product of two columns is learned');
    }

    public function testALossThatRunsAwayIsTriedOnceMoreAndThenSaid(): void
    {
        try {
            $model = (new NeuralNetwork([
                'rate' => 9.0,
                'optimizer' => 'momentum',
                'l2' => 5.0,
                'layers' => '40, 40, 40',
                'find' => false,
            ]))->fit(self::task(300));
            self::assertStringContainsString('It was tried once more with a third of the rate, 3', implode(' ', $model->notes()));
        } catch (CannotFit $e) {
            self::assertStringContainsString('The loss ran away at a rate of 9 and at a third of it.', $e->getMessage());
        }
    }

    public function testManyValuesBecomeAnEmbedding(): void
    {
        $few = (new NeuralNetwork(['each' => 10, 'epochs' => 3]))->fit(self::task());
        $many = (new NeuralNetwork(['each' => 100, 'epochs' => 3]))->fit(self::task());
        $weights = static fn (int $inputs, int $before): string => number_format($before + $inputs * 32 + 32 + 32 * 16 + 16 + 16 + 1).' weights';
        // 50 values, others and missing: five numbers each, against an input each.
        self::assertSame($weights(2 + 5, 52 * 5), $few->size());
        self::assertSame($weights(2 + 52, 0), $many->size());
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function refused(): iterable
    {
        yield 'letters' => [['layers' => '32, many'], '"Layers" is a list such as "32, 16"'];
        yield 'too wide' => [['layers' => '5000'], 'from 1 to 1,000 units each'];
        yield 'too deep' => [['layers' => '2,2,2,2,2,2,2'], 'at most 6 layers'];
        yield 'a rate of nothing' => [['rate' => 0], '"Learning rate" is a number from'];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('refused')]
    public function testSettingsThatCannotBeAreSaid(array $settings, string $says): void
    {
        $this->expectException(CannotFit::class);
        $this->expectExceptionMessage($says);
        new NeuralNetwork($settings);
    }
}
