<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Guide\Weighed;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** A guided search on a file: the same tries, figures and models as in the application, for the same rows, seed and counts. */
#[AsCommand('dokimos:search', 'Search by itself for the best that can be made of a file')]
final class SearchCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('file', InputArgument::REQUIRED);
        foreach ([
            'target' => 'The column to predict',
            'event' => 'The class that counts as the event (1 or yes when left out)',
            'task' => 'event, classes or number; guessed from the target when left out',
            'inputs' => 'Columns to use, comma-separated',
            'without' => 'Columns to leave out',
            'weight' => 'Column of case weights',
            'preparation' => 'JSON file of steps to begin with',
            'figure' => 'What it aims at; what trials are ranked by when left out',
            'without-learners' => 'Learners that may not be used, comma-separated',
            'rungs' => 'How many tries the second and third rung hold, as an earlier search printed them',
            'out' => 'Where to write the best model',
        ] as $name => $text) {
            $this->addOption($name, null, InputOption::VALUE_REQUIRED, $text);
        }
        $this->addOption('tries', null, InputOption::VALUE_REQUIRED, 'Tries of the first rung', '40')
            ->addOption(
                'ideas',
                null,
                InputOption::VALUE_REQUIRED,
                'Ideas for columns that are weighed, at most',
                (string) Guided::ALL_IDEAS,
            )
            ->addOption('seed', null, InputOption::VALUE_REQUIRED, 'The same seed gives the same search', '2026')
            ->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        $table = $options->table('file');
        $target = $options->required('target');
        $weight = $options->text('weight');
        $weights = null === $weight ? null : Options::numbers($table, $weight);
        $inputs = $options->inputs($table, $target, $weight);
        $outcome = Outcome::of($table, $target, $options->text('task'), $options->text('event'), null);
        $task = null === $outcome->classes ? Task::NUMBER : (2 === \count($outcome->classes) ? Task::TWO : Task::MORE);
        $figure = null === $options->text('figure') ? Figures::ranking($task) : Figures::named($task, $options->required('figure'));
        $raw = Table::of(array_combine($inputs, array_map($table->column(...), $inputs)), $table->rows);
        $learners = Guided::learnersFor($task, $options->list('without-learners'));
        $guided = new Guided(
            $raw,
            $inputs,
            $outcome->values,
            $outcome->classes,
            $weights,
            null,
            $options->steps(),
            $figure,
            $learners,
            (int) $options->required('seed'),
        );
        $weighed = $guided->making(null, null, (int) $options->required('ideas'));
        $tries = $guided->candidates(max(1, (int) $options->required('tries')), $weighed);
        [$rungs, $values] = self::climb($guided, $tries, $weighed, array_map(intval(...), $options->list('rungs')));
        $finals = [];
        foreach ($guided->families($values, $tries) as $place) {
            $judged = $guided->judged($tries[$place], $weighed);
            $finals[] = [
                'learner' => $guided->learners[$tries[$place]->space],
                'settings' => $tries[$place]->settings,
                'made' => $tries[$place]->variant > 0,
                'searching' => $values[$place],
            ] + $judged->toArray();
        }
        $best = $guided->families($values, $tries)[0] ?? null;
        if (null !== $best && null !== $out = $options->text('out')) {
            $model = $guided->whole($tries[$best], $weighed, $target, $outcome->event);
            file_put_contents($out, json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        }

        return [
            'figure' => $figure->name, 'judging_rows' => \count($guided->judging), 'choosing_rows' => \count($guided->choosing),
            'ideas' => array_map(
                static fn (Weighed $w): array => [
                    'name' => $w->idea->name,
                    'from' => $w->idea->from,
                    'gain' => $w->gain,
                    'low' => $w->low,
                    'high' => $w->high,
                    'kept' => $w->kept,
                    'for' => $w->for,
                ],
                $weighed,
            ),
            'steps' => $guided->stepsOf(1, $weighed), 'steps_of_straight' => $guided->stepsOf(2, $weighed), 'rungs' => $rungs, 'finals' => $finals,
        ];
    }

    /**
     * @param list<Candidate> $tries
     * @param list<Weighed>   $weighed
     * @param list<int>       $counts  of the second and third rung; as many as climb when empty
     *
     * @return array{list<list<array<string, mixed>>>, array<int, ?float>} each rung's tries, and the figures of the highest by place
     */
    private static function climb(Guided $guided, array $tries, array $weighed, array $counts): array
    {
        $places = array_keys($tries);
        $rungs = $values = [];
        for ($rung = 0; $rung < \count(Guided::RUNGS) && [] !== $places; ++$rung) {
            $values = $lines = [];
            foreach ([2, 1, 0] as $variant) {
                $own = array_values(array_filter($places, static fn (int $p): bool => $tries[$p]->variant === $variant));
                $group = array_map(static fn (int $p): Candidate => $tries[$p], $own);
                foreach ([] === $group ? [] : $guided->weigh($group, $rung, $weighed) as $i => $one) {
                    $values[$own[$i]] = $one['value'];
                    $lines[$own[$i]] = [
                        'place' => $own[$i],
                        'learner' => Learners::title($guided->learners[$group[$i]->space]),
                        'settings' => $group[$i]->settings,
                        'made' => $variant > 0,
                        'value' => $one['value'],
                        'reading' => $one['reading'],
                    ];
                }
            }
            ksort($values);
            ksort($lines);
            $rungs[] = array_values($lines);
            if ($rung + 1 < \count(Guided::RUNGS)) {
                $next = $guided->survivors($values, $tries, $rung);
                $places = isset($counts[$rung]) ? \array_slice(
                    $next,
                    0,
                    max(\count(array_unique(array_map(static fn (int $p): int => $tries[$p]->space, $next))), $counts[$rung]),
                ) : $next;
            }
        }

        return [$rungs, $values];
    }
}
