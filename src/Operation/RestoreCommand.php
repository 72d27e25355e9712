<?php

declare(strict_types=1);

namespace App\Operation;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Puts a backup back. */
#[AsCommand('dokimos:restore', 'Put a backup in the place of the database')]
final class RestoreCommand extends Command
{
    public function __construct(private readonly Backup $backup)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED);
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $file = $input->getArgument('file');
        try {
            $this->backup->restore(\is_string($file) ? $file : '');
        } catch (\RuntimeException $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        $output->writeln('Restored. The database that was here before is kept beside it as dokimos.sqlite.before-restore. Now run dokimos:migrate.');

        return 0;
    }
}
