<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\Accounts;
use App\Account\User;
use App\Http\Problem;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Does a study again from its file and the same sources. */
#[AsCommand('dokimos:study:run', 'Do a study again from its file, and hold what is found against it')]
final class RunStudyCommand extends Command
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Accounts $accounts,
        private readonly Replay $replay,
        private readonly ReplayTables $tables,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED, 'A study as dokimos:study:save writes it')
            ->addOption('by', null, InputOption::VALUE_REQUIRED, 'Sign-in name of who will own it')
            ->addOption('source', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'name=file, for each source', []);
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $by = $input->getOption('by');
        $user = \is_string($by) ? $this->accounts->find($by) : null;
        if (null === $user) {
            $output->writeln('Say whose it will be: --by=sign-in name.');

            return 2;
        }
        try {
            $path = $input->getArgument('file');
            $study = $this->replay->begin($user, \is_string($path) ? (string) @file_get_contents($path) : '');
            $id = $study->id();
            $given = $input->getOption('source');
            foreach (\is_array($given) ? $given : [] as $source) {
                [$name, $from] = [...explode('=', \is_string($source) ? $source : '', 2), ''];
                if (!is_file($from)) {
                    $output->writeln(\sprintf('There is no file %s.', $from));

                    return 2;
                }
                [$study, $user] = $this->anew($id, (string) $by);
                $this->tables->import($study, $user, $name, $from);
                $this->replay->work();
            }
            do {
                [$study, $user] = $this->anew($id, (string) $by);
                $more = $this->replay->goOn($study, $user);
                $this->replay->work();
            } while ($more);
            [$study] = $this->anew($id, (string) $by);
            $found = $this->replay->view($study) ?? throw Problem::notFound('file');
        } catch (Problem|Refusal $e) {
            $output->writeln($e->getMessage());

            return 2;
        }
        foreach ($found->sources as $source) {
            if ('same' !== $source->state) {
                $output->writeln(match ($source->state) {
                    'missing', 'made here' => \sprintf(
                        'The table %s is not here: give it with --source=%s=file.',
                        $source->name,
                        $source->name,
                    ),
                    'other columns' => \sprintf('%s has no column %s.', $source->name, implode(', ', $source->lacking)),
                    default => \sprintf('The records of %s are others.', $source->name),
                });
            }
        }
        foreach ([...$found->not, ...$found->differs] as $line) {
            $output->writeln($line);
        }
        $output->writeln(\sprintf(
            'Study %d: %s the same to the last bit, %d otherwise, %d not done; of batches and lists %d the same, %d not done.',
            $id,
            1 === $found->same ? '1 trial is' : $found->same.' trials are',
            \count($found->differs),
            $found->waiting,
            $found->sameLists,
            $found->waitingLists,
        ));

        return [] === $found->differs && 0 === $found->waiting + $found->waitingLists ? 0 : 1;
    }

    /**
     * The work has its own view of what is stored: what was read before it is read once more.
     *
     * @return array{Study, User}
     */
    private function anew(int $id, string $by): array
    {
        return [
            $this->entities->find(Study::class, $id) ?? throw Problem::notFound('study'),
            $this->accounts->find($by) ?? throw Problem::notFound('user'),
        ];
    }
}
