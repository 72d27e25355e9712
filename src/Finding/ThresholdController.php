<?php

declare(strict_types=1);

namespace App\Finding;

use App\Http\Problem;
use App\Logbook\Logbook;
use App\Study\Access;
use App\Study\Role;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Findings\Thresholds;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** From where on something is a finding, set for each study. */
#[OA\Tag('Findings')]
final readonly class ThresholdController
{
    public function __construct(private Access $access, private EntityManagerInterface $entities, private Logbook $logbook)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/thresholds', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The thresholds of a study', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ThresholdView::class))))]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse($this->view($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/thresholds', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'The thresholds as they are now', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ThresholdView::class))))]
    public function change(int $id, #[MapRequestPayload] ThresholdsRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        try {
            Thresholds::standard($request->values);
        } catch (\InvalidArgumentException $e) {
            throw Problem::invalid($e->getMessage(), 'values');
        }
        $changed = array_filter(array_map(floatval(...), $request->values), static fn (float $v, string $name) => $v !== (float) Thresholds::STANDARD[$name], \ARRAY_FILTER_USE_BOTH);
        $kept = $this->entities->find(StudyThresholds::class, $id);
        if (($kept?->changed() ?? []) != $changed) {
            if (null === $kept) {
                $this->entities->persist(new StudyThresholds($study, $changed));
            } else {
                $kept->change($changed);
            }
            $said = array_map(static fn (string $name, float $v) => \sprintf('%s %s', str_replace('_', ' ', $name), json_encode($v)), array_keys($changed), $changed);
            $this->logbook->write($study, $this->access->user(), 'table', [] === $said ? 'Thresholds of findings are as usual again.' : \sprintf('Thresholds of findings: %s.', implode(', ', $said)));
            $this->entities->flush();
        }

        return new JsonResponse($this->view($study));
    }

    /** @return list<ThresholdView> */
    private function view(Study $study): array
    {
        $own = $this->entities->find(StudyThresholds::class, $study->id())?->thresholds() ?? Thresholds::standard();

        return array_map(static fn (string $name, float|int $usual) => new ThresholdView($name, $own->of($name), (float) $usual, Thresholds::SAYS[$name]), array_keys(Thresholds::STANDARD), Thresholds::STANDARD);
    }
}
