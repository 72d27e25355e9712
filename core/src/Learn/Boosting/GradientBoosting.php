<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Rows;
use Dokimos\Core\Task\Task;
use Random\Randomizer;

/** Friedman 2001, on histograms. Formulas: docs/methods/boosting.md. */
final readonly class GradientBoosting implements Learner
{
    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    /** Trees of one question add up: what they leave over is what columns do together. */
    private const ADDITIVE = ['trees' => 200, 'rate' => 0.1, 'leaves' => 2, 'columns' => 1.0, 'patience' => 0];
    /** Small trees and few columns at a time did best on made demos of other seeds: docs/methods/guided-search.md. */
    private const SEARCHED = [
        'trees' => 1000, 'patience' => 40, 'rate' => ['from' => 0.025, 'to' => 0.1, 'by' => 'factors'], 'leaves' => ['list' => [3, 4, 6, 8, 12]],
        'leaf' => ['list' => [10, 20, 40]], 'columns' => ['list' => [0.2, 0.3, 0.6]], 'ridge' => ['list' => [1.0, 5.0, 20.0]],
    ];

    public static function card(): Card
    {
        return new Card(6, BoostedModel::class, 230, 11, perClass: 80, searched: self::SEARCHED, scout: self::ADDITIVE);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('boosting', 'Gradient boosting', 'Adds small trees, each mending what those before it left. Often the most accurate; read by its importance.', [Task::TWO, Task::MORE, Task::NUMBER], [
            new Setting('trees', 'Trees, at most', Setting::WHOLE, 600, 'Stops earlier when rows kept back see no gain.', 1, 20000),
            new Setting('rate', 'Learning rate', Setting::NUMBER, 0.05, 'How much each tree may mend. Less needs more trees and often does better.', 0.001, 1.0),
            new Setting('leaves', 'Leaves of a tree, at most', Setting::WHOLE, 12, 'More let more columns act together.', 2, 4096),
            new Setting('depth', 'Questions in a row, at most', Setting::WHOLE, 0, '0 sets no limit beside the leaves.', 0, 60),
            new Setting('leaf', 'Rows in a leaf, at least', Setting::WHOLE, 20, 'More keep noise out.', 1, 1_000_000),
            new Setting('ridge', 'Held back by (L2)', Setting::NUMBER, 1.0, 'More draw what leaves say toward nothing.', 0.0, 1e9),
            new Setting('rows', 'Share of the rows for each tree', Setting::NUMBER, 1.0, 'Less is quicker and varies the trees.', 0.05, 1.0),
            new Setting('columns', 'Share of the columns for each tree', Setting::NUMBER, 0.6, 'Less is quicker and varies the trees.', 0.05, 1.0),
            new Setting('patience', 'Stop after so many trees without gain', Setting::WHOLE, 25, '0 never stops early and keeps no rows back.', 0, 10000),
            new Setting('held', 'Share of rows kept back to stop by', Setting::NUMBER, 0.15, 'These rows say when more trees no longer help.', 0.05, 0.5),
            new Setting('again', 'Then fit on all rows', Setting::YES, true, 'Once more, the rows kept back among them, with as many trees as were found best. Takes up to twice as long, and is more accurate the fewer rows there are.'),
            new Setting('loss', 'For a number, make small', Setting::CHOICE, 'squared error', 'Squared error aims at the mean; Poisson at the mean of counts; quantile at the share below.', choices: ['squared error', 'Poisson', 'quantile'], tasks: [Task::NUMBER]),
            new Setting('quantile', 'Quantile', Setting::NUMBER, 0.5, '0.5 is the median.', 0.01, 0.99, tasks: [Task::NUMBER], when: ['loss' => ['quantile']]),
            new Setting(
                'rising',
                'May only rise with',
                Setting::TEXT,
                '',
                'Columns, separated by commas: more of them never lowers the answer.',
                choices: ['free', 'only rising'],
                tasks: [Task::TWO, Task::NUMBER],
                kinds: [Kind::Number->value],
            ),
            new Setting(
                'falling',
                'May only fall with',
                Setting::TEXT,
                '',
                'Columns, separated by commas: more of them never raises the answer.',
                choices: ['free', 'only falling'],
                tasks: [Task::TWO, Task::NUMBER],
                kinds: [Kind::Number->value],
            ),
            Balance::setting(),
            new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed grows the same trees.', 0, 2_147_483_647),
        ]);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. and more */
    public function fit(Task $task, ?Progress $progress = null): BoostedModel
    {
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $task = $balance->task;
        $usable = CannotFit::withoutRows($task);
        $loss = match ($task->kind()) {
            Task::TWO => Loss::Log,
            Task::MORE => Loss::Several,
            default => Loss::from((string) $this->settings['loss']),
        };
        $random = $this->random();
        $held = [];
        if (0 !== $this->settings['patience']) {
            [, $held] = HeldOut::drawn($task, $usable, (float) $this->settings['held'], $random);
            $held = \count($held) < \count($usable) ? $held : [];
        }
        $rows = [] === $held ? $usable : Rows::without($usable, $held);
        if (Task::MORE === $task->kind() && '' !== trim($this->settings['rising'].$this->settings['falling'])) {
            throw new CannotFit('With several classes there is no one answer that could only rise or fall; leave these settings empty.');
        }
        $again = [] !== $held && (bool) $this->settings['again'];
        $progress ??= new Silent();
        [$codes, $run] = $this->grown($task, $loss, $rows, $held, $this->settings, $random, $again ? new Stretch($progress, 0.0, 0.5) : $progress);
        $notes = $balance->notes();
        if ([] !== $held) {
            $notes[] = \sprintf('%s of %s rounds were kept: after that, %s rows kept back saw no gain.', number_format($run->best), number_format($run->done), number_format(\count($held)));
        }
        $curve = $run->curve;
        if ($again && $run->best > 0) {
            [$codes, $run] = $this->grown($task, $loss, $usable, [], ['trees' => $run->best] + $this->settings, $this->random(), new Stretch($progress, 0.5, 1.0));
            $notes[] = \sprintf('Then it was fitted once more on all %s rows with so many rounds; the curve is that of the first fit.', number_format(\count($usable)));
        }
        foreach ($codes->leftOut as $name => $why) {
            $notes[] = \sprintf('%s was left out: %s.', $name, $why);
        }
        if (Loss::Poisson === $loss && $run->hasNegative()) {
            throw new CannotFit('The Poisson loss counts: the outcome may not be below 0.');
        }

        return new BoostedModel($codes, $run->grove, $loss, self::broughtBack($run->starts, $balance->shifts()), $task->classes, $run->importance(), $curve, $notes);
    }

    private function random(): Randomizer
    {
        return Random::stream((int) $this->settings['seed'], 'boosting');
    }

    /**
     * @param list<int>                            $rows
     * @param list<int>                            $held
     * @param array<string, string|float|int|bool> $settings
     *
     * @return array{Codes, Rounds}
     */
    private function grown(Task $task, Loss $loss, array $rows, array $held, array $settings, Randomizer $random, Progress $progress): array
    {
        $codes = Codes::learn($task->table, $task->inputs, $rows);
        $run = new Rounds($loss, $codes, $task, $rows, $held, $settings, $this->rising($codes), $random);
        $run->all($progress);

        return [$codes, $run];
    }

    /**
     * @param list<float> $starts
     * @param list<float> $shifts per class; [] = none
     *
     * @return list<float>
     */
    private static function broughtBack(array $starts, array $shifts): array
    {
        return match (true) {
            [] === $shifts => $starts,
            1 === \count($starts) => [$starts[0] + $shifts[1] - $shifts[0]],
            default => array_map(static fn (float $start, float $shift): float => $start + $shift, $starts, $shifts),
        };
    }

    /** @return list<int> */
    private function rising(Codes $codes): array
    {
        $out = array_fill(0, \count($codes->columns), 0);
        foreach (['rising' => 1, 'falling' => -1] as $setting => $way) {
            foreach (array_filter(array_map(trim(...), explode(',', (string) $this->settings[$setting])), static fn (string $n) => '' !== $n) as $name) {
                $f = array_search($name, $codes->columns, true);
                if (false === $f) {
                    throw new CannotFit(\sprintf('There is no input %s that the answer could only rise or fall with.', $name));
                }
                if ($codes->isLevels($f)) {
                    throw new CannotFit(\sprintf('%s is a category: it has no order to rise or fall with.', $name));
                }
                $out[$f] = $way;
            }
        }

        return array_values($out);
    }
}
