<?php

declare(strict_types=1);

namespace App\Decision;

use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Dokimos\Core\Silent;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Does a routine once, here and now. */
#[AsCommand('dokimos:routine', 'Do a routine once, and print what it came to')]
final class RoutineCommand extends Command
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly Routines $routines)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('name', InputArgument::OPTIONAL, 'Name or number of the routine; all are listed without it');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $asked = $input->getArgument('name');
        $all = $this->entities->getRepository(Routine::class)->findBy([], ['id' => 'ASC']);
        if (!\is_string($asked)) {
            foreach ($all as $routine) {
                $output->writeln(\sprintf(
                    '%d  %s: %s, %s',
                    $routine->id(),
                    $routine->name(),
                    $routine->study()->name(),
                    $routine->plan()->when,
                ));
            }

            return 0;
        }
        $found = array_values(array_filter($all, static fn (Routine $r): bool => $r->name() === $asked || (string) $r->id() === $asked));
        if (1 !== \count($found)) {
            $output->writeln([] === $found ? \sprintf('There is no routine "%s".', $asked) : \sprintf(
                '%d routines are named "%s"; give the number.',
                \count($found),
                $asked,
            ));

            return 1;
        }
        try {
            $this->routines->run($found[0], new Silent());
        } catch (Problem|Refusal $e) {
            $this->routines->failed($found[0], $e->getMessage());
        }
        $last = $found[0]->last();
        $output->writeln($last['says'] ?? '');
        foreach ($last['warnings'] ?? [] as $warning) {
            $output->writeln('  '.$warning);
        }

        return ($last['failed'] ?? true) ? 1 : 0;
    }
}
