<?php

declare(strict_types=1);

namespace App\Demo;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Loads the demo into an empty installation. */
#[AsCommand('dokimos:demo:load', 'Fill an empty installation with the demo studies')]
final class LoadCommand extends Command
{
    public function __construct(private readonly DemoLoader $loader)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addOption('seed', null, InputOption::VALUE_REQUIRED, 'The same seed gives the same tables', '2026')
            ->addOption('rows', null, InputOption::VALUE_REQUIRED, 'How many past visits', '6000');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $seed = $input->getOption('seed');
        $rows = $input->getOption('rows');
        $this->loader->load(is_numeric($seed) ? (int) $seed : 2026, static fn (string $line) => $output->writeln('  '.$line), is_numeric($rows) ? (int) $rows : 6000);

        return 0;
    }
}
