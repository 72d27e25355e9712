<?php

declare(strict_types=1);

namespace App\Service;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Counts what services were asked on this machine: run by the supervisor every minute, so that a page of another one shows it. */
#[AsCommand('dokimos:calls', 'Count the calls of services that were noted on this machine')]
final class CountCallsCommand extends Command
{
    public function __construct(private readonly Calls $calls)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $output->writeln(\sprintf('%s counted.', number_format($this->calls->fold())));

        return 0;
    }
}
