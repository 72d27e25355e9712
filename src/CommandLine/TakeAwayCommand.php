<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\Column;
use Dokimos\Core\TakeAway\Form;
use Dokimos\Core\TakeAway\OnnxReader;
use Dokimos\Core\TakeAway\TakeAway;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Takes a fitted model away: writes it in a form, has it run by somebody else, and prints the proof. */
#[AsCommand('dokimos:take-away', 'Take a fitted model away as SQL, ONNX or JSON, with its proof')]
final class TakeAwayCommand extends CoreCommand
{
    public function __construct(private readonly string $projectDirectory)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('model', InputArgument::REQUIRED, 'A model as dokimos:fit writes it')
            ->addArgument('file', InputArgument::REQUIRED, 'Records to prove it on')
            ->addOption('as', null, InputOption::VALUE_REQUIRED, implode(', ', array_column(Form::cases(), 'value')), Form::Json->value)
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Where to write it')
            ->addOption(
                'postgres',
                null,
                InputOption::VALUE_REQUIRED,
                'Data source name of a PostgreSQL database that runs its form, as PDO reads it',
            );
    }

    protected function compute(Options $options): array
    {
        $data = json_decode((string) @file_get_contents($options->required('model')), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a model in JSON.', $options->required('model')));
        }
        /** @var array<string, mixed> $data */
        $model = ScoringModel::fromArray($data);
        $form = Form::tryFrom($options->required('as')) ?? throw new \InvalidArgumentException(
            '--as is one of '.implode(', ', array_column(Form::cases(), 'value')).'.',
        );
        [$table] = (new CsvFile($options->required('file')))->read();
        $match = [];
        foreach (ColumnMatch::of($model->asked, array_map(static fn (Column $c) => $c->kind(), $table->columns())) as $line) {
            if (null !== $line['found']) {
                $match[$line['asked']] = $line['found'];
            }
        }
        $real = $model->select($table->take(range(0, min($table->rows, 200) - 1)), $match);
        $postgres = null === $options->text('postgres') ? null : new \PDO($options->required('postgres'));
        [$bytes, $proof] = (new TakeAway(new OnnxReader($this->projectDirectory.'/tools/onnx'), $postgres))->of($model, $form, $real);
        if (null !== $options->text('out') && false === @file_put_contents($options->required('out'), $bytes)) {
            throw new \RuntimeException(\sprintf('%s cannot be written.', $options->required('out')));
        }

        return ['form' => $form->title(), 'bytes' => \strlen($bytes), 'proof' => $proof->jsonSerialize()];
    }
}
