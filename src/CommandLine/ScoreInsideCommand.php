<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\InDatabase;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputOption;

/** Scores a table inside a database: PostgreSQL, or a SQLite file. */
#[AsCommand('dokimos:score-inside', 'Score a table inside a database; rows never leave it')]
final class ScoreInsideCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addArgument('model', InputArgument::REQUIRED, 'A model as dokimos:fit writes it')
            ->addArgument('database', InputArgument::REQUIRED, 'Data source name as PDO reads it: pgsql:host=…;dbname=… or sqlite:…')
            ->addOption('from', null, InputOption::VALUE_REQUIRED, 'A table, or a query')
            ->addOption('into', null, InputOption::VALUE_REQUIRED, 'The new table')
            ->addOption('key', null, InputOption::VALUE_REQUIRED, 'Columns that come along, separated by commas')
            ->addOption(
                'user',
                null,
                InputOption::VALUE_REQUIRED,
                'Role of the server; its password is read from DOKIMOS_DATABASE_PASSWORD',
            );
    }

    protected function compute(Options $options): array
    {
        $data = json_decode((string) @file_get_contents($options->required('model')), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a model in JSON.', $options->required('model')));
        }
        $dsn = $options->required('database');
        $dialect = match (true) {
            str_starts_with($dsn, 'pgsql:') => Dialect::PostgreSql,
            str_starts_with($dsn, 'sqlite:') => Dialect::Sqlite,
            default => throw new \InvalidArgumentException('The database is named as pgsql:… or sqlite:…'),
        };
        $password = getenv('DOKIMOS_DATABASE_PASSWORD');
        $pdo = new \PDO($dsn, $options->text('user'), \is_string($password) ? $password : null);
        /** @var array<string, mixed> $data */
        $done = (new InDatabase($pdo, $dialect))->score(
            ScoringModel::fromArray($data),
            $options->required('from'),
            $options->list('key'),
            $options->required('into'),
        );

        return ['rows' => $done['rows'], 'seconds' => round($done['seconds'], 2), 'proof' => $done['proof']->jsonSerialize()];
    }
}
