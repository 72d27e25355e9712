<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Players;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\PartialDependence;
use Dokimos\Core\Explain\PermutationImportance;
use Dokimos\Core\Explain\SampledAccount;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Says what a stored model goes by, on the rows of a file. */
#[AsCommand('dokimos:explain', 'Explain a model on the rows of a file')]
final class ExplainCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('model', InputArgument::REQUIRED)->addArgument('file', InputArgument::REQUIRED);
        foreach ([
            'method' => 'importance (by shuffling columns), dependence (by changing them), or account (each answer shared out among columns)',
            'columns' => 'Columns to ask about, comma-separated; all that the model asks for when left out',
            'truth' => 'The column with the true outcome; the target when left out',
            'figure' => 'What shuffling is weighed by, such as AUC, log loss, RMSE, R2; the one that trials are ranked by when left out',
            'repeats' => 'Times that each column is shuffled',
            'seed' => 'The same seed shuffles the same way',
            'grid' => 'Values of a column, comma-separated',
            'single' => 'So many rows from the first on with a curve of their own',
            'with' => 'A second column, changed together with the first',
            'rows' => 'Records that are accounted for, comma-separated from 1; the first ten when left out',
            'background' => 'A file of records that answers are held against; the file itself when left out',
            'class' => 'Of several classes, the one whose chance is shared out; the likeliest when left out',
        ] as $name => $text) {
            $this->addOption($name, null, InputOption::VALUE_REQUIRED, $text);
        }
        $this->addOption('kind', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'column=kind', []);
    }

    protected function compute(Options $options): array
    {
        $data = json_decode((string) @file_get_contents($options->required('model')), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a model.', $options->required('model')));
        }
        $model = ScoringModel::fromArray($data);
        $table = $options->table('file');
        $asked = array_map(strval(...), array_keys($model->asked));
        $columns = [] !== $options->list('columns') ? $options->list('columns') : $asked;
        if ([] !== $unknown = array_diff($columns, $asked)) {
            throw new \InvalidArgumentException(\sprintf('The model does not ask for %s.', implode(', ', $unknown)));
        }
        $selected = $model->select($table, $model->byName());

        return match ($options->text('method') ?? 'importance') {
            'importance' => $this->importance($model, $table, $selected, $columns, $options),
            'dependence' => $this->dependence($model, $selected, $columns, $options),
            'account' => $this->accounts($model, $selected, $options),
            default => throw new \InvalidArgumentException('A method is importance, dependence or account.'),
        };
    }

    /**
     * @param list<string> $columns
     *
     * @return array<string, mixed>
     */
    private function importance(ScoringModel $model, Table $table, Table $selected, array $columns, Options $options): array
    {
        $truth = $options->text('truth') ?? $model->target;
        if (!$table->has($truth)) {
            throw new \InvalidArgumentException(\sprintf('There is no column "%s" with the true outcome in the file.', $truth));
        }
        $outcome = Outcome::of($table, $truth, match ($model->task) {
            'two classes' => 'event',
            'several classes' => 'classes',
            default => 'number',
        }, '' === $model->event ? null : $model->event, null)->values;
        $measure = null === $options->text('figure') ? Figures::ranking($model->task) : Figures::named(
            $model->task,
            $options->required('figure'),
        );
        $repeats = max(2, (int) ($options->text('repeats') ?? 10));
        $known = array_keys(array_filter($outcome, static fn (float $y) => !is_nan($y)));
        $selected = $selected->take($known);
        $outcome = array_map(static fn (int $row): float => $outcome[$row], $known);
        $figure = static fn (Answers $answers): ?float => $measure->value($outcome, $answers);
        $lines = [];
        foreach (PermutationImportance::of(
            $model->answers(...),
            $figure,
            $selected,
            $columns,
            $repeats,
            (int) ($options->text('seed') ?? 2026),
        ) as $column => $differences) {
            // Positive is what is lost, whichever way the figure goes.
            $losses = array_map(static fn (float $d): float => $measure->more ? -$d : $d, $differences);
            $mean = array_sum($losses) / \count($losses);
            $sd = sqrt(array_sum(array_map(static fn (float $l): float => ($l - $mean) ** 2, $losses)) / max(1, \count($losses) - 1));
            $half = (new StudentT(max(1, \count($losses) - 1)))->quantile(0.975) * $sd / sqrt(\count($losses));
            $lines[] = [
                'column' => (string) $column,
                'importance' => $mean,
                'sd' => $sd,
                'ci_low' => $mean - $half,
                'ci_high' => $mean + $half,
            ];
        }
        usort($lines, static fn (array $a, array $b) => $b['importance'] <=> $a['importance']);

        return ['figure' => $measure->name, 'base' => $figure($model->answers($selected)), 'repeats' => $repeats, 'columns' => $lines];
    }

    /**
     * Each answer shared out among the columns as they came, against background records: exactly where trees add up, else by drawn orders.
     *
     * @return array<string, mixed>
     */
    private function accounts(ScoringModel $model, Table $selected, Options $options): array
    {
        $against = null === $options->text('background') ? $selected : $model->select($options->table('background'), $model->byName());
        $rows = array_map(intval(...), $options->list('rows'));
        $rows = [] === $rows ? range(1, min(10, max(1, $selected->rows))) : $rows;
        $classes = $model->classes();
        $lines = $exact = [];
        foreach ($rows as $number) {
            if ($number < 1 || $number > $selected->rows) {
                throw new \InvalidArgumentException(\sprintf('The file has records 1 to %d.', $selected->rows));
            }
            $record = $selected->take([$number - 1]);
            $answer = $model->answers($record);
            $class = [] === $classes || !$answer->isKnown(0) ? 0 : array_search(
                $options->text('class') ?? $classes[$answer->likeliest(0)],
                $classes,
                true,
            );
            if (false === $class) {
                throw new \InvalidArgumentException(\sprintf('There is no class "%s".', $options->text('class') ?? ''));
            }
            $place = [] === $classes ? null : $class;
            $exact[$class] ??= [ExactAccount::of($model, $against, $place)];
            $told = $exact[$class][0]?->told($model, $record) ?? SampledAccount::of(
                static fn (Table $t): array => self::of($model->answers($t), $class),
                $against,
                $record,
                Players::of($model, $selected->names()),
                0.0,
                (int) ($options->text('seed') ?? 2026),
            );
            $lines[] = ['record' => $number] + (null === $told ? ['answer' => null] : [
                'answer' => $told->answer,
                'base' => $told->base,
                'effects' => array_combine(array_map(Players::named(...), $told->players), $told->values),
                'errors' => array_combine(array_map(Players::named(...), $told->players), $told->errors),
            ]) + ([] === $classes ? [] : ['class' => $classes[$class]]);
        }

        return ['accounts' => $lines];
    }

    /** @return list<float> the answers, of several classes the chances of one */
    private static function of(Answers $answers, int $class): array
    {
        if (1 === $answers->width) {
            return $answers->values;
        }

        return array_map(
            static fn (int $row): float => $answers->ofClass($row, $class),
            range(0, intdiv(\count($answers->values), $answers->width) - 1),
        );
    }

    /**
     * @param list<string> $columns
     *
     * @return array<string, mixed>
     */
    private function dependence(ScoringModel $model, Table $selected, array $columns, Options $options): array
    {
        $single = min($selected->rows, max(0, (int) ($options->text('single') ?? 0)));
        $given = $options->list('grid');
        $out = [];
        $gridOf = static function (string $name) use ($selected, $given): array {
            $column = $selected->column($name);
            $isNumber = $column instanceof NumberColumn || $column instanceof DateColumn;

            return [] === $given ? PartialDependence::grid($column) : array_map(
                static fn (string $v): float|string => $isNumber ? (float) $v : $v,
                $given,
            );
        };
        if (null !== $other = $options->text('with')) {
            if (!\in_array($other, array_map(strval(...), array_keys($model->asked)), true)) {
                throw new \InvalidArgumentException(\sprintf('The model does not ask for %s.', $other));
            }
            [$first, $second] = [$gridOf($columns[0]), $gridOf($other)];

            return [
                'columns' => [$columns[0], $other],
                'grids' => [$first, $second],
                'partial_dependence' => PartialDependence::ofTwo(
                    static fn (Table $t): array => $model->answers($t)->values,
                    $selected,
                    $columns[0],
                    $first,
                    $other,
                    $second,
                ),
            ];
        }
        foreach ($columns as $name) {
            $grid = $gridOf($name);
            $curve = PartialDependence::of(
                static fn (Table $t): array => $model->answers($t)->values,
                $selected,
                $name,
                $grid,
                $single > 0 ? range(0, $single - 1) : [],
            );
            $out[$name] = [
                'grid' => $curve->grid,
                'partial_dependence' => array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, $curve->mean),
            ] + ($single > 0 ? ['ice' => array_map(static fn (array $row): array => array_map(static fn (float $v): ?float => is_nan($v) ? null : $v, $row), $curve->rows)] : []);
        }

        return ['partial_dependence' => $out];
    }
}
