"""Values of `homography::tests::LIBRARY`: opencv-python-headless 5.0.0 and scikit-image 0.26.0 agree on them."""

import cv2
import numpy as np
from skimage.transform import ProjectiveTransform

face = np.array([[0, 0], [900, 0], [900, 780], [0, 780]], float)
seen = np.array([[312.5, 208.25], [1204, 260.5], [1150.75, 940], [290, 1011.5]], float)
one = cv2.getPerspectiveTransform(face.astype(np.float32), seen.astype(np.float32))
other = ProjectiveTransform.from_estimate(face, seen)
for point in [[450, 390], [0, 390], [900, 100], [33, 700], [120.5, 61.25]]:
    at = one @ np.array([*point, 1])
    assert np.allclose((at / at[2])[:2], other(np.array([point]))[0])
    print(point, (at / at[2])[:2])
