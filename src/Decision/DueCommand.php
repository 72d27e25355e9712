<?php

declare(strict_types=1);

namespace App\Decision;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Begins the routines that are due: run by the supervisor every minute, or by the operator's cron. */
#[AsCommand('dokimos:due', 'Begin the routines that are due')]
final class DueCommand extends Command
{
    public function __construct(private readonly Routines $routines)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $output->writeln(\sprintf('%d begun.', $this->routines->startDue(new \DateTimeImmutable())));

        return 0;
    }
}
