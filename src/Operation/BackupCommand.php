<?php

declare(strict_types=1);

namespace App\Operation;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Writes a backup while Dokimos runs. */
#[AsCommand('dokimos:backup', 'Write the whole installation to one file, while it runs')]
final class BackupCommand extends Command
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
            $sum = $this->backup->write(\is_string($file) ? $file : '');
        } catch (\RuntimeException $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        $output->writeln(\sprintf('Written and checked. SHA-256 %s. Keep the .key file with it, and apart from prying eyes.', $sum));

        return 0;
    }
}
