<?php

declare(strict_types=1);

namespace App\Operation;

use App\Question\Veils;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Creates or upgrades the database. */
#[AsCommand('dokimos:migrate', 'Create or upgrade the database, after a backup')]
final class MigrateCommand extends Command
{
    public function __construct(private readonly Migrator $migrator, private readonly Housekeeping $housekeeping, private readonly Veils $veils)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            $lines = [...$this->migrator->run(), ...$this->housekeeping->run()];
            // What earlier versions said of columns with sealed cells is said anew.
            $this->veils->drawMissing();
        } catch (\RuntimeException $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        $output->writeln($lines);

        return 0;
    }
}
