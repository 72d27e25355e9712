<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Stretch;
use Dokimos\Core\Task\Task;

/** A multilayer perceptron (Rumelhart, Hinton and Williams 1986). Definition: docs/methods/neural-network.md. */
final readonly class NeuralNetwork implements Learner
{
    public const STAYS = 'stays';
    public const FALLS = 'falls to a tenth';
    public const HALVED = 'is halved when stuck';

    private const RELU = 'ReLU';
    private const TANH = 'tanh';
    private const MOST_LAYERS = 6;
    private const MOST_UNITS = 1000;
    private const FEWEST_HELD = 20;
    private const PRICES = [0.03, 0.008, 0.001];

    /** @var array<string, string|float|int|bool> */
    private array $settings;
    /** @var list<int> */
    private array $hidden;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
        $hidden = [];
        foreach (array_filter(
            array_map(trim(...), explode(',', (string) $this->settings['layers'])),
            static fn (string $s): bool => '' !== $s,
        ) as $units) {
            if (!ctype_digit($units) || (int) $units < 1 || (int) $units > self::MOST_UNITS) {
                throw new CannotFit(\sprintf(
                    '"Layers" is a list such as "32, 16": from 1 to %s units each, at most %d layers; "%s" is none.',
                    number_format(self::MOST_UNITS),
                    self::MOST_LAYERS,
                    $units,
                ));
            }
            $hidden[] = (int) $units;
        }
        if (\count($hidden) > self::MOST_LAYERS) {
            throw new CannotFit(\sprintf('"Layers" has at most %d layers.', self::MOST_LAYERS));
        }
        $this->hidden = $hidden;
    }

    public static function card(): Card
    {
        return new Card(1, NetworkModel::class, 400, 90, perTerm: 4, perClass: 40, searched: [
            'layers' => ['list' => ['16', '32', '32, 16', '64, 32']], 'find' => false, 'l2' => [
                'from' => 0.001,
                'to' => 0.05,
                'by' => 'factors',
            ],
            'rate' => ['from' => 0.0005, 'to' => 0.005, 'by' => 'factors'],
        ]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'neural-network',
            'Neural network',
            'Layers of units that bend and add up what the columns say. Strong on smooth effects that act together; read from outside only.',
            [Task::TWO, Task::MORE, Task::NUMBER],
            [
                new Setting(
                    'layers',
                    'Layers',
                    Setting::TEXT,
                    '32, 16',
                    'Units of each hidden layer, separated by commas; none makes a regression of it.',
                ),
                new Setting(
                    'bend',
                    'Units bend by',
                    Setting::CHOICE,
                    self::RELU,
                    'ReLU is quick; tanh is smooth.',
                    choices: [self::RELU, self::TANH],
                ),
                new Setting(
                    'dropout',
                    'Share of units left out at random',
                    Setting::NUMBER,
                    0.0,
                    'While learning; more holds it back more.',
                    0.0,
                    0.9,
                ),
                new Setting(
                    'find',
                    'Choose the price of large weights',
                    Setting::YES,
                    true,
                    'Of three prices the one at which the rows kept back lose least; takes three times as long.',
                ),
                new Setting(
                    'l2',
                    'Price of large weights',
                    Setting::NUMBER,
                    0.008,
                    'More holds it back more.',
                    0.0,
                    100.0,
                    when: ['find' => ['no']],
                ),
                new Setting(
                    'optimizer',
                    'Steps',
                    Setting::CHOICE,
                    Optimizer::ADAM,
                    'Each parameter by its own measure, or all by momentum.',
                    choices: [Optimizer::ADAM, Optimizer::MOMENTUM],
                ),
                new Setting('rate', 'Learning rate', Setting::NUMBER, 0.002, 'Larger steps are quicker and may run away.', 0.000001, 10.0),
                new Setting(
                    'schedule',
                    'The rate',
                    Setting::CHOICE,
                    self::FALLS,
                    'Stays, falls from epoch to epoch, or is halved when rows kept back gain no more.',
                    choices: [self::FALLS, self::HALVED, self::STAYS],
                ),
                new Setting('batch', 'Rows of a step', Setting::WHOLE, 128, 'Fewer take more steps an epoch.', 1, 100_000),
                new Setting('epochs', 'Epochs, at most', Setting::WHOLE, 120, 'How often all training rows are gone through.', 1, 10_000),
                new Setting(
                    'held',
                    'Share of rows kept back to stop by',
                    Setting::NUMBER,
                    0.15,
                    'They teach nothing: the epoch at which they lose least is kept. 0 goes through all epochs.',
                    0.0,
                    0.5,
                ),
                new Setting('patience', 'Epochs without a gain before it stops', Setting::WHOLE, 10, 'More wait longer.', 1, 1000),
                new Setting(
                    'each',
                    'Values with an input each, at most',
                    Setting::WHOLE,
                    30,
                    'A category of more becomes a few learned numbers.',
                    1,
                    1000,
                ),
                Balance::setting(),
                new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed draws the same weights to begin with.', 0, 2_147_483_647),
            ],
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. */
    public function fit(Task $task, ?Progress $progress = null): NetworkModel
    {
        $progress ??= new Silent();
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $task = $balance->task;
        $rows = CannotFit::withoutRows($task);
        [$learn, $held] = HeldOut::parts($task, $rows, (float) $this->settings['held'], $this->settings['seed'].':network');
        if (\count($held) < self::FEWEST_HELD) {
            [$learn, $held] = [$rows, []];
        }
        $encoding = Encoding::learn($task->table, $task->inputs, $learn, (int) $this->settings['each']);
        $kind = $task->kind();
        $outputs = Task::MORE === $kind ? \count($task->classes ?? []) : 1;
        $isRelu = self::RELU === $this->settings['bend'];
        $net = new Net(new Shape($encoding->direct(), $encoding->embeds(), $this->hidden, $outputs), $isRelu, $kind);
        [$mean, $sd] = self::spread($task, $learn);
        $y = array_map(static fn (int $row): float => ($task->outcome[$row] - $mean) / $sd, $learn);
        $w = array_map(static fn (int $row): float => $task->weights[$row] ?? 1.0, $learn);
        $heldY = array_map(static fn (int $row): float => ($task->outcome[$row] - $mean) / $sd, $held);
        $heldW = array_map(static fn (int $row): float => $task->weights[$row] ?? 1.0, $held);
        $training = new Training($net, $this->settings);
        $inputs = $encoding->of($task->table, $learn);
        $heldInputs = [] === $held ? null : $encoding->of($task->table, $held);
        $notes = $balance->notes();
        $rate = (float) $this->settings['rate'];
        $places = array_keys($learn);
        $prices = true === $this->settings['find'] && [] !== $held ? self::PRICES : [(float) $this->settings['l2']];
        $course = null;
        $lost = [];
        foreach ($prices as $i => $price) {
            $part = new Stretch($progress, $i / \count($prices), ($i + 1) / \count($prices));
            $run = static fn (float $rate): Course => $training->run(
                $inputs,
                $y,
                $w,
                $places,
                $heldInputs,
                $heldY,
                $heldW,
                $rate,
                $price,
                $isRelu,
                $part,
            );
            $own = $run($rate);
            if ($own->ranAway) {
                $notes[] = \sprintf('%s It was tried once more with a third of the rate, %s.', $own->why, self::write($rate / 3));
                $own = $run($rate / 3);
            }
            $lost[self::write($price)] = $own->loss;
            $course = null === $course || $own->loss < $course->loss ? $own : $course;
        }
        if (null === $course || $course->ranAway) {
            throw new CannotFit(\sprintf(
                'The loss ran away at a rate of %s and at a third of it. Choose a smaller rate, or a higher price of large weights.',
                self::write($rate),
            ));
        }
        $notes[] = $course->why;
        if (\count($lost) > 1) {
            $notes[] = \sprintf(
                'Of prices of large weights %s it is the one at which rows kept back lost least: %s.',
                implode(', ', array_keys($lost)),
                implode(', ', array_map(static fn (float $l): string => \sprintf('%.4f', $l), $lost)),
            );
        }
        foreach ($encoding->leftOut as $name => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $name, $why);
        }
        $progress->report(1.0);

        return new NetworkModel(
            $encoding,
            $net,
            $isRelu,
            $course->parameters,
            $task->classes,
            $mean,
            $sd,
            $balance->shifts(),
            $course->epochs,
            $course->best,
            $notes,
        );
    }

    private static function write(float $v): string
    {
        return rtrim(rtrim(\sprintf('%.6f', $v), '0'), '.');
    }

    /**
     * What the outcome is measured by: a number by its mean and spread, classes as they are.
     *
     * @param list<int> $rows
     *
     * @return array{float, float}
     */
    private static function spread(Task $task, array $rows): array
    {
        if (null !== $task->classes) {
            return [0.0, 1.0];
        }
        [, $mean, $sd] = Moments::of(
            array_map(static fn (int $row): float => $task->outcome[$row], $rows),
            array_map(static fn (int $row): float => $task->weights[$row] ?? 1.0, $rows),
        );

        return [$mean, $sd > 0.0 ? $sd : 1.0];
    }
}
