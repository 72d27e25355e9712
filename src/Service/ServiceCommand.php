<?php

declare(strict_types=1);

namespace App\Service;

use App\Approval\Approval;
use App\Http\Problem;
use App\Study\Owners;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Refusal;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Opens a service, switches its version, hands out a token, and prints how it is called. */
#[AsCommand('dokimos:service', 'Open a service, switch its version, hand out a token')]
final class ServiceCommand extends Command
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Services $services,
        private readonly ServicePages $pages,
        private readonly Owners $owners,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('name', InputArgument::REQUIRED, 'Name of the service, as it stands in its address')
            ->addOption('by', null, InputOption::VALUE_REQUIRED, 'Sign-in name of the owner; the first owner when left out')
            ->addOption('study', null, InputOption::VALUE_REQUIRED, 'Opens it for this study')
            ->addOption('approval', null, InputOption::VALUE_REQUIRED, 'Number of the approval that answers from now on')
            ->addOption('token', null, InputOption::VALUE_REQUIRED, 'Hands out a token to this caller, and prints it once')
            ->addOption('pause', null, InputOption::VALUE_NONE, 'Callers are told that it is paused')
            ->addOption('resume', null, InputOption::VALUE_NONE, 'It answers again')
            ->addOption('keep', null, InputOption::VALUE_REQUIRED, 'Days for which what callers send is kept; 0 = not at all')
            ->addOption('host', null, InputOption::VALUE_REQUIRED, 'Host of the printed example', 'http://127.0.0.1:8080');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $text = static fn (string $name): ?string => \is_string($input->getOption($name)) ? $input->getOption($name) : null;
        $name = \is_string($input->getArgument('name')) ? $input->getArgument('name') : '';
        try {
            $service = $this->services->named($name);
            $study = $service?->study() ?? $this->entities->find(
                Study::class,
                (int) $text('study'),
            ) ?? throw Problem::notFound('service; open it with --study and --approval');
            $owner = $this->owners->named($study, $text('by'));
            $approval = null === $text('approval') ? null : $this->entities->getRepository(Approval::class)->findOneBy([
                'study' => $study,
                'number' => (int) $text('approval'),
            ]) ?? throw Problem::notFound('approval');
            if (null === $service) {
                $service = $this->services->open(
                    $study,
                    $owner,
                    $name,
                    $approval ?? throw new Problem(422, 'Say which approval answers (--approval).'),
                );
            } elseif (null !== $approval) {
                $this->services->switch($service, $owner, $approval);
            }
            if (true === $input->getOption('pause') || true === $input->getOption('resume')) {
                $this->services->pause($service, $owner, true === $input->getOption('pause'));
            }
            if (null !== $text('keep')) {
                $this->services->keep($service, $owner, max(0, min(Inputs::MOST_DAYS, (int) $text('keep'))));
            }
            if (null !== $text('token')) {
                [, $shown] = $this->services->token($service, $owner, new TokenRequest($text('token')));
                $output->writeln('TOKEN='.$shown);
            }
        } catch (Problem|Refusal $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
        $view = $this->pages->view($service);
        $output->writeln(\sprintf('%s: version %s. %s', $view->name, $view->version ?? 'none', $view->says));
        $output->writeln(str_replace('{host}', (string) $text('host'), $view->examples[0]->code));

        return 0;
    }
}
