<?php

declare(strict_types=1);

namespace Radebatz\TypeInfoExtras\TypeResolver;

use Symfony\Component\TypeInfo\Type;
use Symfony\Component\TypeInfo\TypeContext\TypeContext;
use Symfony\Component\TypeInfo\TypeResolver\StringTypeResolver as SymfonyStringTypeResolver;
use Symfony\Component\TypeInfo\TypeResolver\TypeResolverInterface;

/** Hands every type string to Symfony's own resolver. */
final class StringTypeResolver implements TypeResolverInterface
{
    private readonly SymfonyStringTypeResolver $resolver;

    public function __construct()
    {
        $this->resolver = new SymfonyStringTypeResolver();
    }

    public function resolve(mixed $subject, ?TypeContext $typeContext = null): Type
    {
        return $this->resolver->resolve($subject, $typeContext);
    }
}
