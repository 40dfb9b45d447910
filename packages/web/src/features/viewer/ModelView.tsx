import { useEffect, useRef, useState } from 'react';
import * as three from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { Failed, Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** Nothing that a model names is fetched from elsewhere: what is not inside it is left out. */
const managerOf = (own: string) => {
  const manager = new three.LoadingManager();
  manager.setURLModifier((url) => (url === own || url.startsWith('data:') || url.startsWith('blob:') ? url : 'data:,'));
  return manager;
};

/** Metal shows what is around it, and there is nothing around a model here: it would be black. What shines is made dull instead. */
const dulled = (model: three.Object3D): three.Object3D => {
  model.traverse((part) => {
    if (!(part instanceof three.Mesh)) return;
    for (const material of [part.material].flat())
      if (material instanceof three.MeshStandardMaterial) material.metalness = 0;
  });
  return model;
};

const load = async (address: string, isStl: boolean): Promise<three.Object3D> => {
  const manager = managerOf(address);
  if (!isStl) return dulled((await new GLTFLoader(manager).loadAsync(address)).scene);
  const geometry = await new STLLoader(manager).loadAsync(address);
  // Many programs leave the normals of the faces empty.
  geometry.computeVertexNormals();
  return new three.Mesh(
    geometry,
    new three.MeshStandardMaterial({ color: 0x7d9aa3, roughness: 0.7, side: three.DoubleSide, flatShading: true }),
  );
};

/** A model in space, turned and brought nearer by mouse, touch or the arrow keys. */
export const ModelView = ({ address, isStl, name }: { address: string; isStl: boolean; name: string }) => {
  const holder = useRef<HTMLDivElement>(null);
  const [state, setState] = useState<'loading' | 'shown' | 'failed'>('loading');
  useEffect(() => {
    const element = holder.current;
    if (!element) return;
    let gone = false;
    let renderer: three.WebGLRenderer;
    try {
      renderer = new three.WebGLRenderer({ antialias: true, alpha: true });
    } catch {
      setState('failed');
      return;
    }
    const scene = new three.Scene();
    const camera = new three.PerspectiveCamera(40, 1, 0.001, 1e7);
    scene.add(new three.HemisphereLight(0xffffff, 0x8899aa, 2.2), new three.DirectionalLight(0xffffff, 1.4));
    const controls = new OrbitControls(camera, renderer.domElement);
    const draw = () => renderer.render(scene, camera);
    const fit = () => {
      const { clientWidth, clientHeight } = element;
      renderer.setSize(clientWidth, clientHeight);
      camera.aspect = clientWidth / Math.max(1, clientHeight);
      camera.updateProjectionMatrix();
      draw();
    };
    element.append(renderer.domElement);
    controls.addEventListener('change', draw);
    controls.listenToKeyEvents(element);
    const observer = new ResizeObserver(fit);
    observer.observe(element);
    load(address, isStl).then(
      (model) => {
        if (gone) return;
        const box = new three.Box3().setFromObject(model);
        const [size, middle] = [box.getSize(new three.Vector3()).length() || 1, box.getCenter(new three.Vector3())];
        scene.add(model);
        controls.target.copy(middle);
        camera.position.copy(middle).add(new three.Vector3(size, size * 0.8, size * 1.3));
        camera.near = size / 1000;
        camera.far = size * 100;
        controls.update();
        fit();
        setState('shown');
      },
      () => !gone && setState('failed'),
    );
    return () => {
      gone = true;
      observer.disconnect();
      controls.dispose();
      renderer.dispose();
      renderer.domElement.remove();
    };
  }, [address, isStl]);
  return (
    <div className="relative h-full min-h-80">
      <div ref={holder} className="absolute inset-0" role="img" tabIndex={0} aria-label={wording.modelName(name)} />
      {state === 'loading' && <Loading what={wording.theModel} />}
      {state === 'failed' && <Failed error={new Error('This model cannot be displayed; you can download it.')} />}
    </div>
  );
};
