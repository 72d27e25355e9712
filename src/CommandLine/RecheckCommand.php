<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Recheck\Effects;
use Dokimos\Core\Recheck\Judged;
use Dokimos\Core\Recheck\Recheck;
use Dokimos\Core\Recheck\Slices;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Holds a model against newer records whose outcomes are known. */
#[AsCommand('dokimos:recheck', 'Hold a model against newer records: a verdict, figures then and now, what moved')]
final class RecheckCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('model', InputArgument::REQUIRED, 'A model as dokimos:fit writes it')
            ->addArgument('examined', InputArgument::REQUIRED, 'Records with outcomes that it had not learned from')
            ->addArgument('newer', InputArgument::REQUIRED, 'Newer records with outcomes')
            ->addOption('figure', null, InputOption::VALUE_REQUIRED, 'The figure that decides; the usual one of the task when left out')
            ->addOption('cutoff', null, InputOption::VALUE_REQUIRED, 'From which chance on an event is called')
            ->addOption('matters', null, InputOption::VALUE_REQUIRED, 'The loss that matters, in units of the figure');
    }

    protected function compute(Options $options): array
    {
        $data = json_decode((string) @file_get_contents($options->required('model')), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a model in JSON.', $options->required('model')));
        }
        /** @var array<string, mixed> $data */
        $model = ScoringModel::fromArray($data);
        [$then, $seen] = $this->read($model, $options->required('examined'));
        [$now, $selected, $lacking] = $this->read($model, $options->required('newer'));
        $name = $options->text('figure');
        $cutoff = $options->text('cutoff');
        $matters = $options->text('matters');
        $check = Recheck::of(
            $then,
            $now,
            null === $name ? Figures::ranking($model->task) : Figures::named($model->task, $name),
            null === $cutoff || Task::TWO !== $model->task ? null : CutOff::at((float) $cutoff),
            null === $matters ? null : (float) $matters,
            $lacking,
        );

        return $check->toArray() + [
            'calibration' => ['then' => Slices::calibration($then), 'now' => Slices::calibration($now)],
            'columns' => [] === $lacking ? Effects::of($model, $seen, $selected) : [],
        ];
    }

    /** @return array{Judged, Table, list<string>} what it answers, the columns it asks for, and those that are not there */
    private function read(ScoringModel $model, string $path): array
    {
        [$table] = (new CsvFile($path))->read();
        $match = $lacking = [];
        foreach (ColumnMatch::of($model->asked, array_map(static fn (Column $c) => $c->kind(), $table->columns())) as $line) {
            null === $line['found'] ? $lacking[] = $line['asked'] : $match[$line['asked']] = $line['found'];
        }
        if (!$table->has($model->target)) {
            throw new \InvalidArgumentException(\sprintf('%s has no column %s: outcomes are needed.', $path, $model->target));
        }
        $column = $table->column($model->target);
        $classes = array_flip($model->classes());
        $outcome = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $text = $column->text($row);
            $outcome[] = match (true) {
                null === $text => \NAN,
                Task::TWO === $model->task => $text === $model->event ? 1.0 : 0.0,
                Task::NUMBER === $model->task => $column instanceof NumberColumn ? $column->values[$row] : \NAN,
                default => isset($classes[$text]) ? (float) $classes[$text] : \NAN,
            };
        }
        $selected = $model->select($table, $match);

        return [new Judged($model->task, $outcome, $model->answers($selected)), $selected, $lacking];
    }
}
